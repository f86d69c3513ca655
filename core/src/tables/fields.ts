/** What a table tells of. */
export const TABLE_KINDS = ["devices", "connections", "parts"] as const;
export type TableKind = (typeof TABLE_KINDS)[number];

/** How the cells of a column are read. */
export type CellKind = "text" | "tag" | "end" | "length" | "size" | "colour" | "watts" | "number";

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

const DEVICE =
  "device|tag|device tag|item designation|betriebsmittel|bmk|betriebsmittelkennzeichen|kennzeichen|repere|appareil|sigla|apparecchio|equipo|aparato|component|komponent|apparat|toestel";
const PIN =
  "pin|terminal|connection|connection point|anschluss|anschlussbezeichnung|klemme|borne|point|morsetto|borna|aansluiting|anslutning|klem";
const FROM = "from|source|start|origin|von|quelle|beginn|de|depuis|da|desde|van|fran|end 1|end a|ziel 1|tenant";
const TO = "to|target|destination|end|nach|ziel|ende|vers|a|hasta|naar|till|end 2|end b|ziel 2|aboutissant";

/** Each word of one list before, or behind, each of the other. */
const joined = (one: string, other: string): string =>
  one
    .split("|")
    .flatMap((a) => other.split("|").flatMap((b) => [`${a} ${b}`, `${b} ${a}`]))
    .join("|");

export const FIELDS: Record<TableKind, readonly Field[]> = {
  devices: [
    field("tag", "Tag", "tag", DEVICE),
    field(
      "part",
      "Part",
      "text",
      "part|part number|part no|article|article number|order number|order no|type|type number|artikel|artikelnummer|bestellnummer|typ|typnummer|teil|teilenummer|reference|ref|article no|codice|articolo|codigo|referencia|artikelnr|best nr",
    ),
    field(
      "text",
      "Text",
      "text",
      "text|description|function|remark|designation|benennung|bezeichnung|beschreibung|funktion|funktionstext|libelle|descrizione|descripcion|omschrijving|benamning",
    ),
    field(
      "enclosure",
      "Enclosure",
      "text",
      "enclosure|location|place|cabinet|panel|einbauort|ort|schrank|gehause|lieu|emplacement|armoire|quadro|ubicazione|armario|lugar|kast|plaats|skap|plats",
    ),
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
    field("net", "Net", "text", "net|potential|signal|netz|signalname|potentiel|potenziale|potencial|potentiaal"),
    field(
      "size",
      "Cross-section",
      "size",
      "size|cross section|section|gauge|mm2|mm|awg|qmm|querschnitt|nennquerschnitt|sezione|seccion|doorsnede|area|tvarsnitt|csa",
    ),
    field("colour", "Colour", "colour", "colour|color|farbe|aderfarbe|drahtfarbe|couleur|colore|kleur|farg"),
    field("type", "Wire type", "text", "wire type|type|cable type|leitungstyp|drahttyp|typ|type de fil|tipo|draadtype"),
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
    field(
      "text",
      "Text",
      "text",
      "text|description|designation|benennung|bezeichnung|beschreibung|libelle|descrizione|descripcion|omschrijving|benamning",
    ),
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
