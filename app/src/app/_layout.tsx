import "../global.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useFonts } from "expo-font";
import { Navigator, Slot, usePathname } from "expo-router";
import { useState } from "react";
import { useShown } from "../kit/choice";
import { useFocusKept } from "../kit/focus";
import { FONT_FILES } from "../kit/fonts";
import { SettingsProvider } from "../kit/settings";
import { useReturn } from "../kit/reach";
import { useOffline } from "../offline/register";
import { Boundary } from "../shell/Boundary";
import { TroubleFrame } from "../shell/TroubleFrame";
import { useAllViews } from "../shell/fetchViews";

export default function Layout() {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: { retry: 1, networkMode: "always", staleTime: 5_000 },
          mutations: { networkMode: "always" },
        },
      }),
  );
  useFonts(FONT_FILES);
  useShown();
  useAllViews();
  useFocusKept();
  useOffline(client);
  useReturn(client);
  const path = usePathname();
  return (
    <SettingsProvider>
      <QueryClientProvider client={client}>
        {/* The navigator stands outside: a view that goes wrong does not take its address along. */}
        <Navigator>
          <Boundary path={path} frame={TroubleFrame}>
            <Slot />
          </Boundary>
        </Navigator>
      </QueryClientProvider>
    </SettingsProvider>
  );
}
