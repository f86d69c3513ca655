import "../global.css";
import { Barlow_400Regular, Barlow_500Medium, Barlow_600SemiBold } from "@expo-google-fonts/barlow";
import {
  BarlowSemiCondensed_400Regular,
  BarlowSemiCondensed_600SemiBold,
} from "@expo-google-fonts/barlow-semi-condensed";
import { JetBrainsMono_400Regular, JetBrainsMono_600SemiBold } from "@expo-google-fonts/jetbrains-mono";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useFonts } from "expo-font";
import { Slot } from "expo-router";
import { useState } from "react";
import { SettingsProvider } from "../kit/settings";

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
  useFonts({
    Barlow_400Regular,
    Barlow_500Medium,
    Barlow_600SemiBold,
    BarlowSemiCondensed_400Regular,
    BarlowSemiCondensed_600SemiBold,
    JetBrainsMono_400Regular,
    JetBrainsMono_600SemiBold,
  });
  return (
    <SettingsProvider>
      <QueryClientProvider client={client}>
        <Slot />
      </QueryClientProvider>
    </SettingsProvider>
  );
}
