import type { OpenPoint } from "../design/open-points";

/** What came in: how much of each thing, and what is wrong with it. */
export interface IntakeResult {
  counts: {
    enclosures: number;
    rails: number;
    ducts: number;
    devices: number;
    nets: number;
    wires: number;
    cables: number;
    strips: number;
    options: number;
  };
  /** Things left out because another option is chosen. */
  leftOut: { devices: number; wires: number; cables: number };
  open: OpenPoint[];
}
