import type { Config } from "tailwindcss";
import { EDGE_PX, FONTS, GLOVE_PX, type Palette, TOUCH_PX, TYPE_PX } from "./src/kit/tokens";

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

/** Lengths that grow with the size of text a person has chosen. */
const rem = (px: number) => `${px / 16}rem`;

/** Steps of 4 px up to 1,200, and of 2 px up to 48: `w-26` is 104 px beside text of the usual size. */
const steps = [...Array.from({ length: 24 }, (_, n) => n / 2), ...Array.from({ length: 289 }, (_, n) => n + 12)];
const sizes = {
  ...Object.fromEntries(steps.map((n) => [n, rem(4 * n)])),
  // A finger does not grow with the text.
  touch: `${TOUCH_PX}px`,
  glove: `${GLOVE_PX}px`,
};
/** What lies between things stays as it is: the room of a small screen goes to its text. */
const gaps = Object.fromEntries(steps.slice(0, 48).map((n) => [n, `${4 * n}px`]));

const config: Config = {
  content: ["./src/**/*.{ts,tsx}"],
  // eslint-disable-next-line @typescript-eslint/no-require-imports
  presets: [require("nativewind/preset")],
  darkMode: "class",
  theme: {
    screens: { md: rem(768) },
    extend: {
      fontSize: Object.fromEntries(
        Object.entries(TYPE_PX).map(([name, [size, line]]) => [name, [rem(size), { lineHeight: rem(line) }]]),
      ),
      borderRadius: { edge: `${EDGE_PX}px` },
      width: sizes,
      height: sizes,
      minWidth: sizes,
      minHeight: sizes,
      maxWidth: sizes,
      maxHeight: sizes,
      padding: gaps,
      margin: gaps,
      gap: gaps,
      inset: gaps,
      colors: Object.fromEntries(names.map((n) => [n, `rgb(var(--c-${n}) / <alpha-value>)`])),
      fontFamily: Object.fromEntries(Object.entries(FONTS).map(([k, v]) => [k, [v]])),
    },
  },
};
export default config;
