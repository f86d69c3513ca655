import type { ControlRow, Machine, MetalworkRules } from "./rules";
import { bestLie, lieOf } from "./lies";
import type { Drilled, FaceWork } from "./result";
import { frameOf } from "./shapes";
import type { PlanBasis } from "./times";
import { kitOf } from "./tools";

/** A sheet of which nothing is stated is taken to be so thick. mm */
export const THICKNESS_MM = 2;

export interface OnMachine {
  machine: Machine;
  control: ControlRow;
}

/** The machine of a face: its own, else the shop's; null where the shop has no machine, or no control, of that name. */
export function machineOf(name: string, { machines, controls }: MetalworkRules): OnMachine | null {
  const machine = machines.find((m) => m.name === name);
  const control = controls.find((c) => c.machine === name);
  return machine && control ? { machine, control } : null;
}

/** Lie and tools of a face on its machine, as the plan and the program go by them; how it lies is chosen where it is not yet. */
export function basisOf(
  drilled: Drilled & Partial<Pick<FaceWork, "turn">>,
  { machine, control }: OnMachine,
  rules: MetalworkRules,
): PlanBasis {
  const thicknessMm = drilled.thicknessMm ?? THICKNESS_MM;
  return {
    kit: kitOf(rules, machine.name, control, { thicknessMm, material: drilled.material }),
    lie:
      drilled.turn === undefined
        ? bestLie(
            drilled,
            drilled.holes.flatMap(({ cut }) => (cut.kind === "knockout" ? [] : [frameOf(cut)])),
            machine,
            rules.clamps,
            rules.clampMm,
          )
        : lieOf(drilled, machine, rules.clamps, drilled.turn),
    control,
    clampMm: rules.clampMm,
    thicknessMm,
    sheet: { w: drilled.w, h: drilled.h },
  };
}
