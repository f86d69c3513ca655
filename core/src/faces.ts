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
export const FACES: readonly Face[] = [intake, panel, routes, lineups, heat, metalwork, kits, wireprep];
