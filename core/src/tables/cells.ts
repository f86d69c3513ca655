import { awgMm2 } from "../wiring/conductors";
import { COLOURS, NET_CLASSES, type Colour, type NetClass, type PinRef } from "../design/model";

/** A cell as it was understood, or why not and what would be. */
export type CellRead<T> = { ok: true; value: T } | { ok: false; wanted: string };

const read = <T>(value: T): CellRead<T> => ({ ok: true, value });
const wanted = (what: string): CellRead<never> => ({ ok: false, wanted: what });

export type Decimal = "." | ",";

/**
 * Which sign a column takes for the decimal one. `1.234,5` says it, `0,75` too; `1,234` alone could be either.
 * @returns `sure` is false where no value says it
 */
export function decimalOf(values: readonly string[]): { decimal: Decimal; sure: boolean } {
  let [points, commas] = [0, 0];
  for (const value of values) {
    const digits = /\d[\d.,' ]*/.exec(value)?.[0].trim() ?? "";
    const [dot, comma] = [digits.lastIndexOf("."), digits.lastIndexOf(",")];
    if (dot > comma && comma >= 0) points++;
    else if (comma > dot && dot >= 0) commas++;
    // Three digits behind one sign may be thousands; any other number of them, or a nought before it, says it.
    else if (dot >= 0 && !/^[1-9]\d{0,2}(\.\d{3})+$/.test(digits)) points++;
    else if (comma >= 0 && !/^[1-9]\d{0,2}(,\d{3})+$/.test(digits)) commas++;
  }
  return { decimal: commas > points ? "," : ".", sure: commas !== points };
}

/** The first of the values that the other decimal sign would make another number, where no value of the column says which it is. */
export function unclear(values: readonly string[]): string | null {
  if (decimalOf(values).sure) return null;
  return values.find((v) => /^[-+]?[1-9]\d{0,2}[.,]\d{3}(?!\d)/.test(v.trim())) ?? null;
}

/** What stands for a number where a sign is the decimal one: thousands are parted by blanks, apostrophes or the other sign. */
const GROUPED: Record<Decimal, RegExp> = {
  ".": /^[-+]?[1-9]\d{0,2}([ ',’]\d{3})+(\.\d*)?$/,
  ",": /^[-+]?[1-9]\d{0,2}([ '.’]\d{3})+(,\d*)?$/,
};
const UNGROUPED: Record<Decimal, RegExp> = { ".": /^[-+]?(\d+\.?\d*|\.\d+)$/, ",": /^[-+]?(\d+,?\d*|,\d+)$/ };

/**
 * A number with the decimal sign of its column, without a unit. Where it can only be meant with the other one (`1.5` among commas: no
 * thousands have one digit) it is taken as meant.
 */
export function numberOf(text: string, decimal: Decimal): number | null {
  const trimmed = text.trim();
  if (GROUPED[decimal].test(trimmed))
    return Number(trimmed.replace(decimal === "." ? /[ ',’]/g : /[ '.’]/g, "").replace(",", "."));
  const other = decimal === "." ? "," : ".";
  return UNGROUPED[decimal].test(trimmed) || UNGROUPED[other].test(trimmed) ? Number(trimmed.replace(",", ".")) : null;
}

const MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, '"': 25.4, ft: 304.8 };

/** A length in mm: the unit of the cell counts before that of its column. */
export function lengthOf(text: string, decimal: Decimal, unit: string): CellRead<number> {
  const [, digits, own] = /^([-+\d.,' ]*\d[.]?)\s*([a-z"]*)\.?$/i.exec(text.trim()) ?? [];
  const value = digits === undefined ? null : numberOf(digits, decimal);
  const factor = MM[(own || unit).toLowerCase()];
  if (value === null || factor === undefined) return wanted("a length, such as 120 or 4.5 in");
  // Thousandths of an inch are 0.03 mm: more digits than hundredths would say what nobody measured.
  const steps = factor % 1 === 0 ? 1e6 : 100;
  return read(Math.round(value * factor * steps) / steps);
}

/** A cross-section in mm²: `1,5`, `2.5 mm²`, `0,75qmm`, `AWG 14`, `14 AWG`, `2/0 AWG`; of a cable `4x2,5` the one of a core. */
export function sizeOfCell(text: string, decimal: Decimal, unit: "mm2" | "awg" = "mm2"): CellRead<number> {
  const told = text.trim().toLowerCase().replace(/\s+/g, " ");
  const gauge = /^(?:awg|#)? ?(\d{1,2})(\/0)?(?: ?awg)?$/.exec(told);
  if (gauge && (unit === "awg" || /awg|#|\/0/.test(told))) {
    const [, n, nought] = gauge;
    // 2/0 is two sizes beyond 1, counted through 0.
    return read(Math.round(awgMm2(nought ? 1 - Number(n) : Number(n)) * 100) / 100);
  }
  const [, digits] = /^(?:\d{1,2} ?[x×*] ?)?([\d.,]+)(?: ?(?:mm2|mm²|mm\^2|qmm|sqmm|sq ?mm|mmq))?$/.exec(told) ?? [];
  const value = digits === undefined ? null : numberOf(digits, decimal);
  return value === null || value <= 0 ? wanted("a cross-section, such as 1.5, 2.5 mm² or AWG 14") : read(value);
}

export const LANGUAGES = ["IEC", "English", "German", "French", "Italian", "Spanish", "Dutch", "Swedish"] as const;
export type Language = (typeof LANGUAGES)[number];

const [BK, BN, RD, OG, YE, GN, BU, VT, GY, WH, PK, TQ] = COLOURS;

/** Words and usual short forms of the colours, without accents, by language. */
const WORDS: Record<Language, Readonly<Record<string, Colour>>> = {
  IEC: Object.fromEntries(COLOURS.map((c) => [c.toLowerCase(), c])),
  English: colours(
    "black|blk brown|brn red orange|org yellow|yel green|grn blue|blu violet|purple|vio grey|gray|gry white|wht pink|pnk turquoise",
  ),
  German: colours(
    "schwarz|sw braun|br rot|rt orange|or gelb|ge grun|gruen|gn blau|bl violett|vi grau|gr weiss|ws rosa|rs turkis|tuerkis|tk",
  ),
  French: colours("noir|n marron|brun|ma rouge|r orange jaune|j vert|v bleu|b violet gris|g blanc rose turquoise"),
  Italian: colours("nero marrone rosso arancione|arancio giallo verde blu viola grigio bianco rosa turchese"),
  Spanish: colours("negro marron rojo naranja amarillo verde azul violeta gris blanco rosa turquesa"),
  Dutch: colours("zwart bruin rood oranje geel groen blauw violet|paars grijs wit roze turkoois"),
  Swedish: colours("svart brun rod orange gul gron bla violett|lila gra vit rosa turkos"),
};

/** Words in the order of the colours, other forms of one behind a bar. */
function colours(words: string): Record<string, Colour> {
  const order = [BK, BN, RD, OG, YE, GN, BU, VT, GY, WH, PK, TQ];
  return Object.fromEntries(words.split(" ").flatMap((forms, i) => forms.split("|").map((f) => [f, order[i]!])));
}

const plainWord = (text: string): string =>
  text.trim().toLowerCase().normalize("NFD").replace(/\p{M}/gu, "").replace(/ß/g, "ss");

function inLanguage(text: string, language: Language): Colour | null {
  const one = (word: string): Colour | null => WORDS[language][word] ?? WORDS.IEC[word] ?? null;
  const word = plainWord(text);
  const whole = one(word);
  if (whole) return whole;
  // Green and yellow in either order, joined or not: the only pair that a conductor of ours has.
  const parts = word.split(/[\s/+\-_.]+|(?<=^[a-z]{2})(?=[a-z]{2}$)/).filter((p) => p !== "");
  const pair = parts.length === 2 ? parts.map(one) : [];
  return pair.includes(GN!) && pair.includes(YE!) ? "GNYE" : null;
}

/**
 * The language in which the colours of a column are written: the one that understands the most of them. `gr` is green to nobody and
 * grey to some: only the column tells.
 */
export function languageOf(values: readonly string[]): Language {
  const some = [...new Set(values.filter((v) => v.trim() !== ""))];
  let best: Language = "IEC";
  let most = -1;
  for (const language of LANGUAGES) {
    const known = some.filter((v) => inLanguage(v, language) !== null).length;
    if (known > most) [best, most] = [language, known];
  }
  return best;
}

export function colourOfCell(text: string, language: Language): CellRead<Colour> {
  const colour = inLanguage(text, language);
  return colour ? read(colour) : wanted("a colour of one conductor, such as BU, GNYE or red");
}

/** What stands before the tag of a device: its function and the enclosure it is in. */
const BEFORE = String.raw`((?:[=+][^-:\s]+)*)`;
const TAG = new RegExp(String.raw`^${BEFORE}-?([^-:=+\s][^:]*)$`);
const END = new RegExp(String.raw`^${BEFORE}-?([^-:=+\s][^:]*?)\s*:\s*(\S.*)$`);

/** A device as a cell names it. */
export interface TagRead {
  /** As designs write it: `-K1`. */
  tag: string;
  /** `+A1` where it stands before the tag. */
  enclosure?: string;
  /** All that stands before it, `=F1+A1`, where that is more than the enclosure. */
  before?: string;
}

const enclosureIn = (before: string): Pick<TagRead, "enclosure" | "before"> => {
  const [enclosure] = /\+[^=+]+/.exec(before) ?? [];
  return {
    ...(enclosure === undefined ? {} : { enclosure }),
    ...(before === "" || before === enclosure ? {} : { before }),
  };
};

/** A device in a cell: `-K1`, `K1`, `+A1-K1`, `=F1+A1-K1`. */
export function tagOfCell(text: string): CellRead<TagRead> {
  const [, before = "", tag] = TAG.exec(text.trim()) ?? [];
  return tag === undefined
    ? wanted("the tag of a device, such as -K1")
    : read({ tag: `-${tag.trim()}`, ...enclosureIn(before) });
}

/** An end in one cell: `-K1:A1`, `K1:A1`, `+A1-K1:A1`, `=F1+A1-K1:A1`. What stands behind the first colon is the pin. */
export function endOf(text: string): CellRead<PinRef & Pick<TagRead, "enclosure" | "before">> {
  const [, before = "", tag, pin] = END.exec(text.trim()) ?? [];
  return tag === undefined || pin === undefined
    ? wanted("a device and a pin, such as -K1:A1")
    : read({ device: `-${tag}`, pin: pin.trim(), ...enclosureIn(before) });
}

/** What parts the ends of a chain: a sign for it, an arrow, or a blank before the next tag. */
const BETWEEN_ENDS = /\s*(?:[;,|\n→]|->)\s*|\s+(?=[-+=])/;

/** Ends that follow one another in a cell: `-K1:A1, -K2:A1, -K3:A1`. */
export function chainOf(text: string): CellRead<(PinRef & Pick<TagRead, "enclosure" | "before">)[]> {
  const ends = text
    .split(BETWEEN_ENDS)
    .filter((t) => t !== "")
    .map(endOf);
  const some = ends.flatMap((e) => (e.ok ? [e.value] : []));
  return some.length < 2 || some.length < ends.length
    ? wanted("two or more ends, such as -K1:A1, -K2:A1, -K3:A1")
    : read(some);
}

/** A voltage and its kind: `24 V DC`, `230VAC`, `AC 400`, `3~400V`. */
export function voltageOfCell(text: string): CellRead<{ v: number; kind: "ac" | "dc" }> {
  const told = text.trim().toLowerCase();
  const digits = /(\d+(?:[.,]\d+)?)\s*(k?)v?/.exec(told.replace(/^[123]\s*(?:~|ph|ac)\s*/, "ac "));
  const kind = /dc|=|⎓|gs/.test(told) ? "dc" : /ac|~|ph|ws/.test(told) ? "ac" : null;
  if (!digits || kind === null) return wanted("a voltage with its kind, such as 24 V DC or 230 V AC");
  return read({ v: Number(digits[1]!.replace(",", ".")) * (digits[2] === "k" ? 1000 : 1), kind });
}

const CLASS_WORDS: Record<NetClass, string> = {
  supply: "supply|power|mains|infeed|versorgung|einspeisung|alimentation|alimentazione|alimentacion|voeding|matning",
  drive: "drive|motor|antrieb|moteur|motore|aandrijving|drift",
  control: "control|steuerung|steuer|commande|comando|controle|mando|besturing|styr",
  signal: "signal|analog|data|bus|signale|segnale|senal|signaal",
  earth: "earth|ground|pe|protective earth|erde|schutzleiter|terre|terra|tierra|aarde|jord",
};

/** The class of a net, in words. */
export function classOfCell(text: string): CellRead<NetClass> {
  const word = plainWord(text);
  const found = NET_CLASSES.find((c) => c === word || CLASS_WORDS[c].split("|").includes(word));
  return found ? read(found) : wanted(`one of ${NET_CLASSES.join(", ")}`);
}
