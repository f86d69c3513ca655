/** What a table tells of. */
export const TABLE_KINDS = ["devices", "connections", "terminals", "cables", "nets", "parts"] as const;
export type TableKind = (typeof TABLE_KINDS)[number];

/** How the cells of a column are read. */
export type CellKind =
  | "text"
  | "tag"
  | "end"
  /** Several ends that follow one another. */
  | "chain"
  | "length"
  | "size"
  | "colour"
  | "watts"
  | "number"
  | "voltage"
  | "class";

/** Cells of these are numbers, with a decimal sign. */
export const NUMBERS: ReadonlySet<CellKind> = new Set(["length", "size", "watts", "number"]);

/** One of our fields, and how others head its column. */
export interface Field {
  id: string;
  label: string;
  kind: CellKind;
  /** Words of headings, plain (lower case, without accents and punctuation), in the languages such lists come in. */
  words: readonly string[];
}

const field = (id: string, label: string, kind: CellKind, words: string): Field => ({
  id,
  label,
  kind,
  words: words.split("|"),
});

export const DEVICE =
  "device|tag|device tag|item designation|betriebsmittel|bmk|betriebsmittelkennzeichen|kennzeichen|repere|appareil|sigla|apparecchio|equipo|aparato|component|komponent|apparat|toestel";
export const PIN =
  "pin|terminal|connection|connection point|anschluss|anschlussbezeichnung|klemme|borne|point|morsetto|borna|aansluiting|anslutning|klem";
const FROM = "from|source|start|origin|von|quelle|beginn|de|depuis|da|desde|van|fran|end 1|end a|ziel 1|tenant";
const TO = "to|target|destination|end|nach|ziel|ende|vers|a|hasta|naar|till|end 2|end b|ziel 2|aboutissant";
const NUMBER_OF_PART =
  "part|part number|part no|article|article number|order number|order no|type|type number|artikel|artikelnummer|bestellnummer|typ|typnummer|teil|teilenummer|reference|ref|article no|codice|articolo|codigo|referencia|artikelnr|best nr";
const TEXT =
  "text|description|function|remark|designation|benennung|bezeichnung|beschreibung|funktion|funktionstext|libelle|descrizione|descripcion|omschrijving|benamning";
const PLACE =
  "enclosure|location|place|cabinet|panel|einbauort|ort|schrank|gehause|lieu|emplacement|armoire|quadro|ubicazione|armario|lugar|kast|plaats|skap|plats";
const NET = "net|potential|signal|netz|signalname|potentiel|potenziale|potencial|potentiaal";
const SIZE =
  "size|cross section|section|gauge|mm2|mm|awg|qmm|querschnitt|nennquerschnitt|sezione|seccion|doorsnede|area|tvarsnitt|csa";
const COLOUR = "colour|color|farbe|aderfarbe|drahtfarbe|couleur|colore|kleur|farg";
const STRIP =
  "strip|terminal strip|terminal block|klemmleiste|klemmenleiste|leiste|bornier|morsettiera|regleta|klemmenstrook|plint";
const TERMINAL =
  "terminal|terminal number|terminal no|klemme|klemmennummer|klemmen nr|borne|numero borne|morsetto|borna|klem|plintnummer|no|nr|number";
const CABLE = "cable|cable tag|cable number|cable no|kabel|kabelnummer|kabel nr|cavo|cordon|kabelnr";
const CORE = "core|core number|conductor|wire|ader|adernummer|ader nr|conducteur|anima|conductor no|part|ledare";

/** Each word of one list before, or behind, each of the other. */
const joined = (one: string, other: string): string =>
  one
    .split("|")
    .flatMap((a) => other.split("|").flatMap((b) => [`${a} ${b}`, `${b} ${a}`]))
    .join("|");

export const FIELDS: Record<TableKind, readonly Field[]> = {
  devices: [
    field("tag", "Tag", "tag", DEVICE),
    field("part", "Part", "text", NUMBER_OF_PART),
    field("text", "Text", "text", TEXT),
    field("enclosure", "Enclosure", "text", PLACE),
    field("sheet", "Sheet", "text", "sheet|page|drawing|blatt|seite|folio|planche|foglio|pagina|hoja|blad|sida"),
  ],
  connections: [
    field(
      "number",
      "Wire number",
      "text",
      "wire|wire number|wire no|number|no|nr|conductor|lead|draht|drahtnummer|ader|adernummer|leitung|verbindung|fil|numero|n|conducteur|filo|numero filo|hilo|draad|draadnummer|ledare|ledarnummer",
    ),
    field("from", "From, device and pin", "end", FROM),
    field("fromDevice", "From device", "tag", joined(FROM, DEVICE)),
    field("fromPin", "From pin", "text", joined(FROM, PIN)),
    field("to", "To, device and pin", "end", TO),
    field("toDevice", "To device", "tag", joined(TO, DEVICE)),
    field("toPin", "To pin", "text", joined(TO, PIN)),
    field("cable", "Cable", "tag", CABLE),
    field("core", "Core", "text", CORE.replace("conductor|wire|", "")),
    field("chain", "All ends in their order", "chain", "chain|ends|pins|connections|points|kette|enden|anschlusse"),
    field("net", "Net", "text", NET),
    field("size", "Cross-section", "size", SIZE),
    field("colour", "Colour", "colour", COLOUR),
    field("type", "Wire type", "text", "wire type|type|cable type|leitungstyp|drahttyp|typ|type de fil|tipo|draadtype"),
  ],
  terminals: [
    field("strip", "Strip", "tag", STRIP),
    field("terminal", "Terminal", "text", TERMINAL),
    field("part", "Part", "text", NUMBER_OF_PART),
    field("text", "Text", "text", TEXT),
    field("enclosure", "Enclosure", "text", PLACE),
    field(
      "jumper",
      "Jumper",
      "text",
      "jumper|jumpers|bridge|bridges|cross connection|brucke|brucken|pont|pontage|ponte|ponticello|puente|brug|bygling",
    ),
  ],
  cables: [
    field("tag", "Cable", "tag", CABLE),
    field("type", "Cable type", "text", `cable type|kabeltyp|type de cable|tipo cavo|kabeltype|${NUMBER_OF_PART}`),
    field("core", "Core", "text", CORE),
    field("colour", "Colour", "colour", COLOUR),
    field("size", "Cross-section", "size", SIZE),
    field("from", "From, device and pin", "end", FROM),
    field("fromDevice", "From device", "tag", joined(FROM, DEVICE)),
    field("fromPin", "From pin", "text", joined(FROM, PIN)),
    field("to", "To, device and pin", "text", TO),
    field("toDevice", "To device", "tag", joined(TO, DEVICE)),
    field("toPin", "To pin", "text", joined(TO, PIN)),
    field("fromPlace", "From enclosure", "text", joined(FROM, PLACE)),
    field("toPlace", "To enclosure or place", "text", joined(TO, PLACE)),
    field("net", "Net", "text", NET),
    field(
      "outer",
      "Outer diameter",
      "length",
      "outer diameter|diameter|od|durchmesser|aussendurchmesser|diametre|diametro",
    ),
  ],
  nets: [
    field("name", "Net", "text", `name|${NET}`),
    field("class", "Class", "class", "class|kind|art|klasse|klass|classe|clase"),
    field("voltage", "Voltage", "voltage", "voltage|spannung|nennspannung|tension|tensione|spanning|spanning v|u"),
    field("currentA", "Current", "number", "current|strom|nennstrom|courant|corrente|corriente|stroom|strom a|i"),
    field("size", "Cross-section", "size", SIZE),
    field("colour", "Colour", "colour", COLOUR),
  ],
  parts: [
    field(
      "number",
      "Part",
      "text",
      "part|part number|part no|number|article|article number|order number|type|artikel|artikelnummer|bestellnummer|typ|reference|codice|codigo|artikelnr",
    ),
    field(
      "maker",
      "Maker",
      "text",
      "maker|manufacturer|brand|supplier|hersteller|fabrikat|lieferant|fabricant|marque|costruttore|fabricante|fabrikant|leverantor|tillverkare",
    ),
    field("text", "Text", "text", TEXT),
    field("w", "Width", "length", "width|w|breite|b|largeur|l|larghezza|ancho|anchura|breedte|bredd"),
    field("h", "Height", "length", "height|h|hohe|hoehe|hauteur|altezza|alto|altura|hoogte|hojd"),
    field("d", "Depth", "length", "depth|d|tiefe|t|profondeur|p|profondita|fondo|profundidad|diepte|djup"),
    field(
      "lossW",
      "Loss",
      "watts",
      "loss|losses|power loss|heat loss|verlustleistung|verlust|puissance dissipee|pertes|perdite|perdidas|verlies|forlust",
    ),
  ],
};

/** A heading without accents, punctuation and what stands in brackets behind it, which may be a unit. */
export function plainHeading(heading: string): { words: string; unit: string } {
  const [, name = heading, unit = ""] = /^(.*?)\s*[[(]([^\])]*)[\])]\s*$/.exec(heading) ?? [];
  const words = name
    .replace(/ß/g, "ss")
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replace(/²/g, "2")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
  return { words, unit: unit.trim().toLowerCase() };
}
