/** What we use of the package that reads DXF: entities with the names that it gives to their groups. */
declare module "dxf/lib/parseString" {
  interface Entity {
    type: string;
    layer?: string;
    [name: string]: unknown;
  }
  interface Parsed {
    header: { insUnits?: number };
    tables: { layers?: Record<string, { name?: string; colorNumber?: number; flags?: number }> };
    blocks: { name?: string; x?: number; y?: number; xref?: string; entities: Entity[] }[];
    entities: Entity[];
  }
  const parseString: ((text: string) => Parsed) & { default?: (text: string) => Parsed };
  export default parseString;
}
