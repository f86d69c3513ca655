import type { Thing } from "../design/open-points";
import type { StageName } from "../stage-names";

/** What stands in an address behind its question mark. */
export type Query = Readonly<Record<string, string>>;

/** Which things the view of a stage shows, and how it is asked for one. It is fetched with the first page: it leads to nothing else. */
export interface Shows {
  stage: StageName;
  things: { readonly [T in Thing]?: (of: string) => Query };
  /** Those of them that are looked for here, whoever speaks of them. */
  home: readonly Thing[];
}

/** Shown under their own name: `?wire=214`. */
export const byName = <T extends Thing>(...things: readonly T[]): Record<T, (of: string) => Query> =>
  Object.fromEntries(things.map((thing) => [thing, (of: string): Query => ({ [thing]: of })])) as Record<
    T,
    (of: string) => Query
  >;
