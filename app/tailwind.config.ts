import type { Config } from "tailwindcss";
import { FONTS, type Palette } from "./src/kit/tokens";

const names: (keyof Palette)[] = [
  "paper",
  "tray",
  "line",
  "graphite",
  "slate",
  "verdigris",
  "ochre",
  "brick",
  "harbour",
  "onVerdigris",
];

const config: Config = {
  content: ["./src/**/*.{ts,tsx}"],
  // eslint-disable-next-line @typescript-eslint/no-require-imports
  presets: [require("nativewind/preset")],
  darkMode: "class",
  theme: {
    extend: {
      colors: Object.fromEntries(names.map((n) => [n, `rgb(var(--c-${n}) / <alpha-value>)`])),
      fontFamily: Object.fromEntries(Object.entries(FONTS).map(([k, v]) => [k, [v]])),
    },
  },
};
export default config;
