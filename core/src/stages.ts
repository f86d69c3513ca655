import type { AnyStage } from "./frame/stage";
import { heat } from "./heat/stage";
import { intake } from "./intake/stage";
import { kits } from "./kits/stage";
import { lineups } from "./lineups/stage";
import { metalwork } from "./metalwork/stage";
import { panel } from "./panel/stage";
import { routes } from "./routes/stage";
import { wireprep } from "./wireprep/stage";

/** The stages that are built, in the order they are computed. Whoever runs them knows none by name. */
export const STAGES: readonly AnyStage[] = [intake, panel, routes, lineups, heat, metalwork, kits, wireprep];
