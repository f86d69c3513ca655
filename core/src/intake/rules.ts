import { COLOURS, NET_CLASSES, type Colour, type NetClass } from "../design/lists";
import { ruleForm } from "../shop/rule-forms";
import { namedAgain, type StageRules, type TableRule } from "../shop/rule-kinds";

/** Colour and cross-section by class. */
export type ClassRules = Partial<Record<NetClass, { colour?: Colour; sizeMm2?: number }>>;

export const CLASS_RULES: TableRule<ClassRules> = {
  as: "table",
  kept: "by name",
  text: "colour and cross-section by class",
  why: "What a wire gets whose own data and net say nothing.",
  source: "IEC 60445 for protective earth, else shop default",
  ordered: false,
  columns: [
    { key: "class", label: "Class", as: "choice", choices: NET_CLASSES, needed: true },
    { key: "colour", label: "Colour", as: "choice", choices: COLOURS },
    { key: "sizeMm2", label: "Size", as: "number", unit: "mm²", min: 0.001, max: 1000 },
  ],
  default: { earth: { colour: "GNYE" } },
  rows: (classes) => Object.entries(classes).map(([name, given]) => ({ class: name, ...given })),
  value: (rows) => Object.fromEntries(rows.map(({ class: name, ...given }) => [name, given])) as ClassRules,
  check: (rows) => namedAgain(rows, "class", "this class has a row above; the last one counts"),
};

/** Rules of nets, as they stand in the shop. */
export interface IntakeInShop {
  classes: ClassRules;
}

/** What a job may say of them for itself. */
export interface IntakeOfJob {
  classes?: ClassRules;
}

export const RULES: StageRules = {
  stage: "intake",
  rules: { classes: CLASS_RULES },
  needed: ["classes"],
  own: { classes: { form: ruleForm(CLASS_RULES), over } },
};

/** A job's own say for a class what they say, and leave the rest of it. */
function over(shop: ClassRules, job: ClassRules): ClassRules {
  const classes = { ...shop };
  for (const [name, given] of Object.entries(job))
    classes[name as NetClass] = { ...classes[name as NetClass], ...given };
  return classes;
}
