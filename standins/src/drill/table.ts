/** What stands on a drilling machine: its own file, as whoever set it up wrote it. Lengths in mm. */
export interface MachineTable {
  name: string;
  /** Reach of the spindle, from the datum. */
  area: { x: [number, number]; y: [number, number]; z: [number, number] };
  /** Between places, mm/min; a change of tools, s. */
  rapid: number;
  changeSeconds: number;
  /** What its control reads beside plain moves. */
  reads: { cycles: boolean; arcs: boolean };
  tools: TableTool[];
  clamps: { x: number; y: number; w: number; h: number; high: number }[];
}

export interface TableTool {
  place: number;
  kind: "drill" | "tap" | "sink" | "mill" | "punch";
  d: number;
  /** Of a punch that is not round: its other side. */
  h?: number;
  pitch?: number;
  /** Angle of the point of a drill, degrees; 118 when absent. */
  point?: number;
  /** Turns of a tap that do not cut in full, in pitches; 4 when absent. */
  lead?: number;
  /** Turns it may not exceed, 1/min. */
  mostTurns?: number;
}

const isNumber = (v: unknown): v is number => typeof v === "number" && Number.isFinite(v);
const isPair = (v: unknown): v is [number, number] =>
  Array.isArray(v) && v.length === 2 && v.every(isNumber) && v[0]! < v[1]!;

/**
 * Reads such a file.
 * @throws Error that names the place and what is wrong there
 */
export function readTable(text: string): MachineTable {
  let raw: Record<string, unknown>;
  try {
    raw = JSON.parse(text) as Record<string, unknown>;
  } catch (e) {
    throw new Error(`the machine's file is no JSON: ${(e as Error).message}`);
  }
  const wrong = (place: string, wanted: string): never => {
    throw new Error(`the machine's file: ${place} is to be ${wanted}`);
  };
  const { area, reads, tools, clamps } = raw as Partial<Record<keyof MachineTable, unknown>>;
  if (typeof raw.name !== "string" || raw.name === "") wrong("name", "a name");
  const axes = (area ?? {}) as Record<string, unknown>;
  for (const axis of ["x", "y", "z"]) if (!isPair(axes[axis])) wrong(`area.${axis}`, "two numbers, the lower first");
  if (!isNumber(raw.rapid) || raw.rapid <= 0) wrong("rapid", "a speed above 0 in mm/min");
  if (!isNumber(raw.changeSeconds) || raw.changeSeconds < 0) wrong("changeSeconds", "a time in s");
  const can = (reads ?? {}) as Record<string, unknown>;
  for (const key of ["cycles", "arcs"]) if (typeof can[key] !== "boolean") wrong(`reads.${key}`, "true or false");
  if (!Array.isArray(tools)) wrong("tools", "a list");
  (tools as Record<string, unknown>[]).forEach((t, i) => {
    if (!Number.isInteger(t.place) || (t.place as number) < 1) wrong(`tools[${i}].place`, "a whole number from 1");
    if (!["drill", "tap", "sink", "mill", "punch"].includes(t.kind as string))
      wrong(`tools[${i}].kind`, "drill, tap, sink, mill or punch");
    if (!isNumber(t.d) || t.d <= 0) wrong(`tools[${i}].d`, "a diameter above 0");
  });
  if (!Array.isArray(clamps)) wrong("clamps", "a list");
  (clamps as Record<string, unknown>[]).forEach((c, i) => {
    for (const key of ["x", "y", "w", "h", "high"]) if (!isNumber(c[key])) wrong(`clamps[${i}].${key}`, "a number");
  });
  return raw as unknown as MachineTable;
}
