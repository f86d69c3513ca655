import type { OpenPoint, Thing } from "./design/open-points";
import type { Query, Shows } from "./frame/shows";
import { shows as heat } from "./heat/shows";
import { shows as intake } from "./intake/shows";
import { shows as kits } from "./kits/shows";
import { shows as lineups } from "./lineups/shows";
import { shows as metalwork } from "./metalwork/shows";
import { shows as panel } from "./panel/shows";
import { shows as routes } from "./routes/shows";
import { shows as wireprep } from "./wireprep/shows";
import type { StageName } from "./stage-names";

/** What the views of the stages show. */
export const SHOWS: readonly Shows[] = [intake, panel, routes, lineups, heat, metalwork, kits, wireprep];

/** A view and what is chosen in it. */
export interface Seen {
  view: StageName;
  query: Query;
}

/** Where a thing is looked for; null where no stage is its home. */
export function seenAt(thing: Thing, of: string): Seen | null {
  const at = SHOWS.find((s) => s.home.includes(thing));
  return at ? { view: at.stage, query: at.things[thing]!(of) } : null;
}

/** Where an open point is seen: at its thing, as the stage that found it shows it. */
export function pointAt({ stage, thing, of }: Pick<OpenPoint, "stage" | "thing" | "of">): Seen | null {
  const own = SHOWS.find((s) => s.stage === stage && s.things[thing]);
  return own ? { view: own.stage, query: own.things[thing]!(of) } : seenAt(thing, of);
}
