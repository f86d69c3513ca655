import { RULES as heat } from "../heat/rules";
import { RULES as intake } from "../intake/rules";
import { RULES as kits } from "../kits/rules";
import { RULES as lineups } from "../lineups/rules";
import { RULES as metalwork } from "../metalwork/rules";
import { RULES as routes } from "../routes/rules";
import { RULES as wireprep } from "../wireprep/rules";
import type { StageRules } from "./rule-kinds";

/** What each stage brings to the shop, in the order in which the stages are computed. */
export const STAGE_RULES: readonly StageRules[] = [intake, routes, lineups, heat, metalwork, kits, wireprep];
