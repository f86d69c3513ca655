import type { PrepRules } from "./rules";
import { panelLead, type BatchAsked, type MadeBatch } from "./batch";
import { chainsOf, faceOf } from "./chains";
import { batchPlan } from "./compute";
import { planned } from "./plan";
import type { Chain, Lead, LeadEnd, WireprepResult } from "./result";

const ofPanel = (chain: Chain, panel: number): Chain =>
  panel === 1
    ? chain
    : {
        leads: chain.leads.map((l): Lead => {
          const end = (e: LeadEnd): LeadEnd => ({
            ...e,
            shared: e.shared === null ? null : panelLead(e.shared, panel),
            ...(e.later
              ? { later: { ...e.later, at: panelLead(e.later.at, panel), with: panelLead(e.later.with, panel) } }
              : {}),
          });
          return {
            ...l,
            wire: panelLead(l.wire, panel),
            of: l.wire,
            bundle: panelLead(l.bundle, panel),
            from: end(l.from),
            to: end(l.to),
          };
        }),
      };

/** All panels together: a page, a file and a machine's queue still hold them. */
export const MOST_LEADS = 20_000;

/**
 * A batch of what is asked for: leads that are in another one are left out. Cost of an order of its leads
 * @param taken leads of other batches
 * @returns what cannot be, in words
 */
export function makeBatch(
  { leads, bundles }: Pick<WireprepResult, "leads" | "bundles">,
  asked: BatchAsked,
  taken: ReadonlySet<string>,
  rules: PrepRules,
): MadeBatch | { wrong: string; remedy: string } {
  const machine = asked.machine === null ? null : rules.machines.find((m) => m.name === asked.machine);
  if (machine === undefined)
    return { wrong: `the shop has no machine ${asked.machine}`, remedy: "Choose another one, or the bench." };
  const one = chainsOf(leads);
  const wanted = asked.faces.length > 0 ? one.filter((c) => asked.faces.includes(faceOf(c))) : one;
  const many = asked.panels * wanted.reduce((n, c) => n + c.leads.length, 0);
  if (many > MOST_LEADS)
    return {
      wrong: `${many} leads are more than one batch takes, which is ${MOST_LEADS}`,
      remedy: "Choose fewer faces, or fewer panels at once.",
    };
  const chains = Array.from({ length: asked.panels }, (_, p) => one.map((c) => ofPanel(c, p + 1))).flat();
  const all = chains.flatMap((c) => c.leads);
  if (new Set(all.map((l) => l.wire)).size < all.length)
    return {
      wrong: "wires are named as leads of the next panel would be",
      remedy: "Make a batch for each panel, or number these wires anew.",
    };
  const rank = new Map(bundles.flatMap((b, i) => panelsOf(b, asked.panels).map((name) => [name, i] as const)));
  const plan = planned(
    {
      name: asked.name,
      enclosure: asked.faces.join(" "),
      chains,
      wanted: {
        taken,
        ...(asked.faces.length > 0 ? { faces: asked.faces } : {}),
        ...(asked.fallbacks ? { fallbacks: asked.fallbacks } : {}),
      },
      machine,
      way: asked.way,
    },
    (bundle) => rank.get(bundle) ?? Infinity,
    rules,
  );
  const made = [...plan.chains.flatMap((c) => c.leads), ...plan.bench.map((b) => b.lead)];
  const whyNone = plan.left[0] ?? plan.elsewhere[0];
  if (made.length === 0)
    return {
      wrong: whyNone ? `nothing is left to make: ${whyNone.why}` : "there are no leads",
      remedy: "Choose other faces, take leads on fallback lengths on, or look at the batches that are there.",
    };
  return { plan: batchPlan(plan), panels: asked.panels, fallbacks: asked.fallbacks, leads: made };
}

const panelsOf = (name: string, panels: number): string[] =>
  Array.from({ length: panels }, (_, p) => panelLead(name, p + 1));
