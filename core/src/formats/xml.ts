/** One column of a list of rows: its element, and what may stand in it. */
export interface XmlColumn {
  name: string;
  as: "text" | "number" | "whole";
}

/** What XML 1.0 has no place for is shown as the sign of a character that could not be read. */
const ALLOWED = /[^\u0009\u000A\u000D\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu;

const escape = (text: string): string => text.replace(ALLOWED, "\uFFFD").replace(/[&<>"\r\n\t]/g, (c) => ENTITIES[c]!);

const ENTITIES: Readonly<Record<string, string>> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  // As they are they would be read as blanks.
  "\r": "&#13;",
  "\n": "&#10;",
  "\t": "&#9;",
};

/** Names of elements: a letter or a low line, then letters, digits, low lines, dashes, points. */
export const XML_NAME = /^[A-Za-z_][A-Za-z0-9_.-]*$/;

/**
 * A list of rows as XML 1.0 in UTF-8: a root element, an element for each row, in it an element for each column in their order.
 * @throws Error for a name that is none of an element
 */
export function toXml(
  root: string,
  row: string,
  columns: readonly XmlColumn[],
  rows: readonly (readonly string[])[],
): string {
  for (const name of [root, row, ...columns.map((c) => c.name)])
    if (!XML_NAME.test(name)) throw new Error(`"${name}" is no name of an element`);
  const lines = rows.map(
    (cells) =>
      `  <${row}>${columns.map((c, i) => `<${c.name}>${escape(cells[i] ?? "")}</${c.name}>`).join("")}</${row}>`,
  );
  return ['<?xml version="1.0" encoding="UTF-8"?>', `<${root}>`, ...lines, `</${root}>`, ""].join("\n");
}

const TYPES: Record<XmlColumn["as"], string> = {
  text: "xs:string",
  number: "xs:decimal",
  whole: "xs:nonNegativeInteger",
};

/** The XML Schema (W3C, 1.0) of such a list. */
export function toXsd(root: string, row: string, columns: readonly XmlColumn[]): string {
  const elements = columns.map((c) => `              <xs:element name="${c.name}" type="${TYPES[c.as]}"/>`);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">',
    `  <xs:element name="${root}">`,
    "    <xs:complexType>",
    "      <xs:sequence>",
    `        <xs:element name="${row}" minOccurs="0" maxOccurs="unbounded">`,
    "          <xs:complexType>",
    "            <xs:sequence>",
    ...elements,
    "            </xs:sequence>",
    "          </xs:complexType>",
    "        </xs:element>",
    "      </xs:sequence>",
    "    </xs:complexType>",
    "  </xs:element>",
    "</xs:schema>",
    "",
  ].join("\n");
}
