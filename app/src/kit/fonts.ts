/* eslint-disable @typescript-eslint/no-require-imports */
/** Files of the fonts by the names styles call them: Latin letters, compressed, shipped with the application. */
export const FONT_FILES: Record<string, number> = {
  Barlow_400Regular: require("@fontsource/barlow/files/barlow-latin-400-normal.woff2"),
  Barlow_500Medium: require("@fontsource/barlow/files/barlow-latin-500-normal.woff2"),
  Barlow_600SemiBold: require("@fontsource/barlow/files/barlow-latin-600-normal.woff2"),
  BarlowSemiCondensed_400Regular: require("@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-400-normal.woff2"),
  BarlowSemiCondensed_600SemiBold: require("@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-600-normal.woff2"),
  JetBrainsMono_400Regular: require("@fontsource/jetbrains-mono/files/jetbrains-mono-latin-400-normal.woff2"),
  JetBrainsMono_600SemiBold: require("@fontsource/jetbrains-mono/files/jetbrains-mono-latin-600-normal.woff2"),
};
