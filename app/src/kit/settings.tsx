import { createContext, useCallback, useContext, useLayoutEffect, useMemo, useState, type ReactNode } from "react";
import { day, night, type Palette } from "./tokens";

/** Choices of the person at this device: units and light. Kept on the device. */
export interface Settings {
  length: "mm" | "in";
  size: "mm2" | "awg";
  temperature: "C" | "F";
  light: "day" | "night";
  /** Of whoever works at this device, for the history; empty until it is first needed. */
  name: string;
}

const START: Settings = { length: "mm", size: "mm2", temperature: "C", light: "day", name: "" };
const KEY = "gray-bench.settings";

interface Shared extends Settings {
  tokens: Palette;
  change(part: Partial<Settings>): void;
}

const Context = createContext<Shared | null>(null);

function stored(): Settings {
  try {
    return { ...START, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Settings>) };
  } catch {
    return START;
  }
}

const rgb = (hex: string): string => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)).join(" ");

export function SettingsProvider({ children }: { children: ReactNode }) {
  const [settings, set] = useState(stored);
  const tokens = settings.light === "night" ? night : day;
  useLayoutEffect(() => {
    const { style } = document.documentElement;
    for (const [name, hex] of Object.entries(tokens)) style.setProperty(`--c-${name}`, rgb(hex as string));
    style.colorScheme = settings.light === "night" ? "dark" : "light";
    document.body.style.backgroundColor = tokens.paper;
  }, [tokens, settings.light]);
  const change = useCallback((part: Partial<Settings>) => {
    set((now) => {
      // Everything is drawn anew when settings change.
      if ((Object.keys(part) as (keyof Settings)[]).every((key) => part[key] === now[key])) return now;
      const next = { ...now, ...part };
      try {
        localStorage.setItem(KEY, JSON.stringify(next));
      } catch {
        // Private windows may refuse; the choice then lasts until the page is left.
      }
      return next;
    });
  }, []);
  const value = useMemo(() => ({ ...settings, tokens, change }), [settings, tokens, change]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export function useSettings(): Shared {
  const value = useContext(Context);
  if (!value) throw new Error("useSettings needs a SettingsProvider above it");
  return value;
}

export const useTokens = (): Palette => useSettings().tokens;
