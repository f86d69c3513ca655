import { changed, withFields } from "./edits";
import type { Cable, Design, PinRef } from "../design/model";

/** Whether a conductor leads to one of some devices. */
export const leadsTo = ({ from, to }: { from?: PinRef; to?: PinRef }, devices: ReadonlySet<string>): boolean =>
  [from, to].some((ref) => ref !== undefined && devices.has(ref.device));

/**
 * A design without some devices. Cores that led to them are loose at that end, cables that came in through them have no
 * gland. O(size of the design)
 * @param withWires wires that lead to them go too, unless they are cores; else they are loose at that end
 */
export function withoutDevices(design: Design, leaving: ReadonlySet<string>, withWires: boolean): Design {
  const gone = (ref: PinRef | undefined): boolean => ref !== undefined && leaving.has(ref.device);
  const off = <T extends { from?: PinRef; to?: PinRef }>(list: T[]): T[] =>
    changed(
      list,
      (w) => leadsTo(w, leaving),
      ({ from, to, ...rest }) =>
        ({ ...rest, ...(from && !gone(from) ? { from } : {}), ...(to && !gone(to) ? { to } : {}) }) as T,
    );
  const cables = changed(
    design.cables,
    (c) => leaving.has(c.gland ?? "") || leaving.has(c.glandTo ?? "") || c.cores.some((core) => leadsTo(core, leaving)),
    (c) =>
      withFields<Cable>(
        { ...c, cores: off(c.cores) },
        {
          ...(leaving.has(c.gland ?? "") ? { gland: null } : {}),
          ...(leaving.has(c.glandTo ?? "") ? { glandTo: null } : {}),
        },
      ),
  );
  return {
    ...design,
    devices: design.devices.filter((d) => !leaving.has(d.tag)),
    wires: off(withWires ? design.wires.filter((w) => w.core || !leadsTo(w, leaving)) : design.wires),
    cables,
  };
}
