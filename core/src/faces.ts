import type { ActOf } from "./frame/act";
import type { PayloadsOf } from "./frame/edits";
import type { Face } from "./frame/face";
import { face as heat } from "./heat/face";
import { face as intake } from "./intake/face";
import { face as kits } from "./kits/face";
import { face as lineups } from "./lineups/face";
import { face as metalwork } from "./metalwork/face";
import { face as panel } from "./panel/face";
import { face as routes } from "./routes/face";
import { face as wireprep } from "./wireprep/face";

/** The stages that are built, as they are seen, in the order they are computed. */
const ALL = [intake, panel, routes, lineups, heat, metalwork, kits, wireprep] as const;
export const FACES: readonly Face[] = ALL;

/** Payloads of all kinds of edits, by their kind. */
export type EditPayloads = PayloadsOf<(typeof ALL)[number]["edits"]>;

/** An act of a kind that one of them declares. */
export type KnownAct = ActOf<EditPayloads>;
