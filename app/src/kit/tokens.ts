/** Every raw colour and size of the interface. Nothing else writes one down. */

export interface Palette {
  paper: string;
  tray: string;
  line: string;
  graphite: string;
  slate: string;
  verdigris: string;
  ochre: string;
  brick: string;
  harbour: string;
  /** Text on verdigris. */
  onVerdigris: string;
}

export const day: Palette = {
  paper: "#F3F1EC",
  tray: "#E6E3DB",
  line: "#CFCABD",
  graphite: "#2B2E31",
  slate: "#5D6268",
  verdigris: "#1F6F68",
  ochre: "#8A5900",
  brick: "#9E3B2C",
  harbour: "#2E5F8A",
  onVerdigris: "#FFFFFF",
};

/** The same tokens for the night shift. */
export const night: Palette = {
  paper: "#1D1F21",
  tray: "#2A2D30",
  line: "#4A4E52",
  graphite: "#ECE9E2",
  slate: "#B4B6B4",
  verdigris: "#6CC0B7",
  ochre: "#E0A94A",
  brick: "#EE9384",
  harbour: "#8DBCE4",
  onVerdigris: "#10211F",
};

/** Insulation colours by their IEC 60757 code; two for the two-tone ones. */
export const WIRE_COLOURS: Record<string, readonly string[]> = {
  BK: ["#1B1B1B"],
  BN: ["#7A4A25"],
  RD: ["#C0281C"],
  OG: ["#E07B1A"],
  YE: ["#E8C61F"],
  GN: ["#2F8F3E"],
  BU: ["#1E4FA0"],
  VT: ["#6F3C93"],
  GY: ["#8A8D90"],
  WH: ["#FFFFFF"],
  PK: ["#E59AB0"],
  TQ: ["#2BA7A0"],
  GNYE: ["#2F8F3E", "#E8C61F"],
};

/** Sleeves of what goes on ends, by the words of the shop; one that is not known is drawn empty. */
export const SLEEVE_COLOURS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries({
    white: "WH",
    grey: "GY",
    red: "RD",
    black: "BK",
    blue: "BU",
    yellow: "YE",
    green: "GN",
    orange: "OG",
    brown: "BN",
  }).map(([word, code]) => [word, WIRE_COLOURS[code]![0]!]),
);

/** Bare strands. */
export const COPPER = "#B4743A";

export const FONTS = {
  text: "Barlow_400Regular",
  medium: "Barlow_500Medium",
  strong: "Barlow_600SemiBold",
  table: "BarlowSemiCondensed_400Regular",
  tableStrong: "BarlowSemiCondensed_600SemiBold",
  mono: "JetBrainsMono_400Regular",
  monoStrong: "JetBrainsMono_600SemiBold",
} as const;

/**
 * Sizes of text and their lines, px beside the usual size of 16; they grow with the size a person has chosen for
 * their browser. *small* and *cell* are for lists that are compared, *great* is read standing up.
 */
export const TYPE_PX = {
  tiny: [12, 16],
  small: [13, 18],
  cell: [14, 20],
  body: [15, 21],
  name: [17, 24],
  lead: [18, 24],
  title: [20, 26],
  figure: [26, 32],
  great: [42, 48],
} as const satisfies Readonly<Record<string, readonly [size: number, line: number]>>;

/** The least height of what is tapped, and of what is tapped in gloves, px. */
export const TOUCH_PX = 44;
export const GLOVE_PX = 48;

/** How round an edge is, px. */
export const EDGE_PX = 3;

/** From this width on, px beside text of the usual size, rule, list, drawing and details stand side by side. */
export const WIDE = 900;
/** From this width on a sheet stands beside what it speaks of, not below it. */
export const SHEET_BESIDE = 680;
/** Of the Rule down the left side, px beside text of the usual size. */
export const RULE_WIDTH = 172;

/** What a page of a document lies on, by day and by night: it is drawn for white paper. */
export const PAGE = "#FFFFFF";
