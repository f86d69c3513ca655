import type { Connection, Member } from "./result";

/** One line of text across the strip: what lands there, or nothing. */
export interface Lane {
  level: number;
  inside: Connection | null;
  outside: Connection | null;
}

/** Lanes of a member, level for level: both sides of a level stand against each other. */
export const lanesOf = (m: Member): Lane[] =>
  m.levels.flatMap((l): Lane[] =>
    Array.from({ length: Math.max(1, l.inside.length, l.outside.length) }, (_, i) => ({
      level: l.level,
      inside: l.inside[i] ?? null,
      outside: l.outside[i] ?? null,
    })),
  );
