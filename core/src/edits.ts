import { Edits, type AnyEditKind } from "./design/edits";
import * as intake from "./intake/edits";
import * as panel from "./panel/edits";
import * as routes from "./routes/edits";

/** Every kind of edit there is, each written in the folder of its stage. */
const KINDS: readonly AnyEditKind[] = [
  intake.rename,
  intake.setWires,
  intake.setClass,
  intake.setNet,
  intake.addWire,
  intake.changeWire,
  intake.removeWires,
  intake.setTexts,
  intake.setPart,
  intake.choose,
  intake.accept,
  panel.placeDevice,
  panel.turnDevice,
  panel.liftDevice,
  panel.swapPart,
  panel.setBar,
  routes.setCrossing,
  routes.removeCrossing,
  routes.setRules,
] as readonly unknown[] as readonly AnyEditKind[];

export const EDITS = new Edits(KINDS);
