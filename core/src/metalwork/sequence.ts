import type { MetalworkRules } from "./rules";
import { basisOf, machineOf } from "./on-machine";
import type { FaceWork } from "./result";
import { changeSeconds, highClamps, moveMm, secondsOf, upAndDownMm } from "./times";

/** One operation in the order of the machine. */
export interface Placed {
  /** From one, over all set-ups. */
  n: number;
  setUp: number;
  tool: string;
  hole: number;
  kind: string;
  /** On the face, as seen from outside. */
  x: number;
  y: number;
  /** Tools are changed before it. */
  changed: boolean;
  /** Machine time when it is done, from the beginning of its set-up. */
  seconds: number;
}

/** All operations of a face in the order of the machine, with the time so far. O(operations · clamps) */
export function sequenceOf(work: FaceWork, rules: MetalworkRules): Placed[] {
  const on = work.machine === null ? null : machineOf(work.machine, rules);
  if (!on) return [];
  const basis = basisOf(work, on, rules);
  const tools = new Map(basis.kit.tools.map((t) => [t.id, t]));
  const clamps = highClamps(basis.lie, on.control);
  const up = upAndDownMm(on.control);
  const placed: Placed[] = [];
  work.setUps.forEach(({ steps, shift }, s) => {
    let seconds = s > 0 ? (on.machine.moveS ?? 0) : 0;
    const at = (p: { x: number; y: number }) => {
      const q = basis.lie.place(p);
      return { x: q.x - shift.x, y: q.y - shift.y };
    };
    const way = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
      (moveMm(a, b, clamps, up) / on.machine.rapid) * 60;
    for (const { tool, operations } of steps) {
      let here = { x: 0, y: 0 };
      seconds += changeSeconds(tools.get(tool)!, basis.lie);
      operations.forEach((o, i) => {
        const there = at(o);
        seconds += way(here, there) + secondsOf(o, tools.get(tool)!, basis);
        here = there;
        placed.push({
          n: placed.length + 1,
          setUp: s + 1,
          tool,
          hole: o.hole,
          kind: o.kind,
          x: o.x,
          y: o.y,
          changed: i === 0,
          seconds,
        });
      });
      // Back to where tools are changed.
      seconds += way(here, { x: 0, y: 0 });
    }
  });
  return placed;
}
