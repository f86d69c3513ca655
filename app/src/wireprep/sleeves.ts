/** Inks for sleeves, by the words of the shop; one that is not known is drawn empty. */
export const SLEEVE_INKS: Readonly<Record<string, string>> = {
  white: "#FFFFFF",
  grey: "#9AA0A4",
  red: "#B3261E",
  black: "#1C1C1C",
  blue: "#1F4E9E",
  yellow: "#E3B505",
  green: "#2E7D32",
  orange: "#D9730D",
  brown: "#6B4423",
};
