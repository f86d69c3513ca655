import type Joi from "joi";
import { NET_CLASSES, type NetClass } from "../design/lists";
import type { StageName } from "../stage-names";

/**
 * What every rule says of itself. Forms, checks, workings, sentences of edits and documents are made of
 * these descriptions; nothing says any of it a second time.
 */
export interface Said {
  /** As it stands before the value: `slack at an end`. */
  text: string;
  /** One sentence: what it is for and what a change does. */
  why: string;
  source: string;
}

export interface NumberRule extends Said {
  as: "number";
  unit: string;
  default: number;
  min: number;
  max: number;
}

/** A few words, which may be none. */
export interface TextRule extends Said {
  as: "text";
  default: string;
  most: number;
  /** It is a pattern with these fields, each with what it stands for. */
  fields?: Readonly<Record<string, string>>;
}

export type AnyRule = NumberRule | TextRule | TableRule;

/** Rules for the values of a group, each by its name. */
export type RulesFor<T> = {
  readonly [K in keyof T]: T[K] extends number ? NumberRule : T[K] extends string ? TextRule : TableRule<T[K]>;
};

/** Rules by their place in the shop's rules: one, or a group of them. */
export type RuleTree = Readonly<Record<string, AnyRule | Readonly<Record<string, AnyRule>>>>;

/** What a stage brings to the shop. The shop's value, its form and what a job may say for itself are made of these. */
export interface StageRules {
  stage: StageName;
  rules: RuleTree;
  /** Places of which every shop file has said something; of the others what ships with the product counts where one is silent. */
  needed?: readonly string[];
  /** Rules of before that count no more, by the group they stood in: they are passed over. */
  gone?: Readonly<Record<string, readonly string[]>>;
  /** What a job may say for itself, by place. */
  own?: Readonly<Record<string, OwnRules>>;
}

/** What a job may say for itself of one place. */
export interface OwnRules {
  form: Joi.Schema;
  /** The shop's with the job's on top; field by field where nothing is said. */
  over?(shop: never, job: never): unknown;
}

/** One column of a table of rules. */
export interface Column {
  /** Field of a row; of a pair its place. */
  key: string;
  label: string;
  as: "choice" | "number" | "flag" | "text";
  unit?: string;
  choices?: readonly string[];
  /** Of a text: signs it may have. */
  most?: number;
  min?: number;
  max?: number;
  /** Without a value in this column a row says nothing. */
  needed?: boolean;
  /** Least or largest of a range; what a row comes to, rather than what it fits. */
  role?: "from" | "to" | "result";
}

export type Row = Record<string, string | number | boolean | undefined>;

export interface TableRule<T = unknown> extends Said {
  as: "table";
  /** Rows are looked at from the top; the first that fits counts. */
  ordered: boolean;
  columns: readonly Column[];
  default: T;
  /** How its value is kept: a list of rows; of pairs; by the names in its first column. Rows where nothing is said. */
  kept?: "pairs" | "by name";
  /** Rows it has at least. */
  least?: number;
  /** Rows of a value, and the value of rows. */
  rows(value: T): Row[];
  value(rows: readonly Row[]): T;
  /** Rows that say nothing, or something against another. */
  check(rows: readonly Row[]): RowNote[];
}

/** What is to be said of a row of a table. */
export interface RowNote {
  row: number;
  /** The row that stands against it. */
  by: number;
  text: string;
}

/** Source of what no standard says. */
export const SHOP = "shop default";
const LONGEST_MM = 100_000;
export const lengthRule = (value: number, text: string, why: string, min = 0): NumberRule => ({
  as: "number",
  unit: "mm",
  default: value,
  min,
  max: LONGEST_MM,
  text,
  why,
  source: SHOP,
});
export const percentRule = (value: number, text: string, why: string): NumberRule => ({
  as: "number",
  unit: "%",
  default: value,
  min: 0,
  max: 1000,
  text,
  why,
  source: SHOP,
});

export const countRule = (
  value: number,
  most: number,
  text: string,
  why: string,
  unit: string,
  min = 0,
): NumberRule => ({
  as: "number",
  unit,
  default: value,
  min,
  max: most,
  text,
  why,
  source: SHOP,
});

/** Rows that name again what a row above names. */
export function namedAgain(rows: readonly Row[], key: string, text: string): RowNote[] {
  return rows.flatMap((row, i): RowNote[] => {
    const by = rows.findIndex((other) => other[key] === row[key]);
    return by < i && row[key] !== undefined ? [{ row: i, by, text }] : [];
  });
}

/** Rows that say the very same as a row above. O(rows) */
export function sameAgain(rows: readonly Row[], text = "says the same as a row above"): RowNote[] {
  const first = new Map<string, number>();
  return rows.flatMap((row, i): RowNote[] => {
    const key = JSON.stringify(Object.entries(row).sort(([a], [b]) => (a < b ? -1 : 1)));
    const by = first.get(key);
    if (by === undefined) first.set(key, i);
    return by === undefined ? [] : [{ row: i, by, text }];
  });
}

/** A table of the shop whose rows are what they are: read and written field by field. */
export const tableRule = <T>(
  said: { text: string; why: string; source?: string; ordered?: boolean },
  columns: TableRule["columns"],
  rows: readonly T[],
  check: (rows: readonly Row[]) => RowNote[] = (list) => sameAgain(list),
): TableRule<readonly T[]> => ({
  as: "table",
  source: SHOP,
  ordered: true,
  ...said,
  columns,
  default: rows,
  rows: (list) => list.map((row) => ({ ...row }) as Row),
  value: (list) => list.map((row) => row as unknown as T),
  check,
});

/** A text of so many signs at most. */
export const textRule = (value: string, most: number, text: string, why: string): TextRule => ({
  as: "text",
  default: value,
  most,
  text,
  why,
  source: SHOP,
});

/** What rules say before anybody says otherwise. */
export const defaultsOf = (rules: Readonly<Record<string, AnyRule>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(rules).map(([key, rule]) => [key, rule.default]));

type Pairs = [NetClass, NetClass][];

/** A table of pairs of classes. */
export const pairRule = (
  said: Said & { ordered: boolean; default: Pairs },
  labels: readonly [string, string],
  check: TableRule<Pairs>["check"],
): TableRule<Pairs> => ({
  as: "table",
  kept: "pairs",
  ...said,
  columns: [
    { key: "first", label: labels[0], as: "choice", choices: NET_CLASSES, needed: true },
    { key: "second", label: labels[1], as: "choice", choices: NET_CLASSES, needed: true },
  ],
  rows: (pairs) => pairs.map(([first, second]) => ({ first, second })),
  value: (rows) => rows.map(({ first, second }) => [first, second] as [NetClass, NetClass]),
  check,
});

/** Whether everything that fits one row fits another one too. */
export function coversRow(columns: readonly Column[], wide: Row, narrow: Row): boolean {
  return columns.every(({ key, role }) => {
    const [w, n] = [wide[key], narrow[key]];
    if (role === "result" || w === undefined) return true;
    if (n === undefined) return false;
    if (role === "from") return (w as number) <= (n as number);
    if (role === "to") return (w as number) >= (n as number);
    return w === n;
  });
}
