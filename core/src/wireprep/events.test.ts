import fc from "fast-check";
import { runs } from "../test/runs";
import { countStates, leadStates, type LeadEvent, type LeadWhat } from "./events";

const CHAINS = [["1"], ["2", "3"], ["4", "5", "6"], ["7"]];
const LEADS = CHAINS.flat();

const event = (
  id: string,
  lead: string,
  attempt: number,
  what: LeadWhat,
  more: Partial<LeadEvent> = {},
): LeadEvent => ({
  id,
  batch: "B1",
  lead,
  attempt,
  what,
  who: "Ina",
  at: `2026-11-26T10:00:${id.padStart(2, "0").slice(-2)}Z`,
  ...more,
});

const anyEvents = fc
  .array(
    fc.record({
      lead: fc.constantFrom(...LEADS),
      attempt: fc.integer({ min: 1, max: 4 }),
      what: fc.constantFrom<LeadWhat>("made", "failed", "scrapped", "again", "undone"),
      of: fc.integer({ min: 0, max: 11 }),
    }),
    { maxLength: 12 },
  )
  .map((list) =>
    list.map(({ of, ...e }, i) =>
      event(String(i), e.lead, e.attempt, e.what, e.what === "undone" ? { of: String(of) } : {}),
    ),
  );

const said = (events: readonly LeadEvent[]) => [...leadStates(CHAINS, events)];

test("a lead is made, spoilt, made again", () => {
  const made = event("1", "1", 1, "made");
  const scrapped = event("2", "1", 1, "scrapped", { why: "dropped" });
  const again = event("3", "1", 2, "made");
  const state = (events: LeadEvent[]) => leadStates(CHAINS, events).get("1")!;
  expect(state([])).toEqual({ attempt: 1, made: null, why: null });
  expect(state([made]).made).toEqual({ who: "Ina", at: made.at, id: "1" });
  expect(state([made, scrapped])).toEqual({ attempt: 2, made: null, why: "dropped" });
  expect(state([made, scrapped, again])).toMatchObject({ attempt: 2, made: { id: "3" } });
  // What is undone was never said.
  expect(state([made, scrapped, event("4", "1", 1, "undone", { of: "2" })]).made?.id).toBe("1");
});

test("leads that share a crimp fall together, once, whoever says so first", () => {
  const both = ["4", "5", "6"].map((l, i) => event(String(i), l, 1, "made"));
  const spoils = [
    event("7", "5", 1, "failed", { why: "pull force" }),
    event("8", "4", 1, "scrapped", { why: "crimp bad" }),
    event("9", "5", 1, "failed", { why: "pull force" }),
  ];
  const states = leadStates(CHAINS, [...both, ...spoils]);
  for (const lead of ["4", "5", "6"]) expect(states.get(lead)).toMatchObject({ attempt: 2, made: null });
  expect(leadStates(CHAINS, [...both, spoils[0]!]).get("6")!.why).toBe("crimped with 5: pull force");
  expect(states.get("1")!.attempt).toBe(1);
  expect(countStates(states.values())).toEqual({ leads: 7, made: 0, again: 3 });
});

test("sent twice, late or in another order it comes to the same", () => {
  fc.assert(
    fc.property(anyEvents, fc.infiniteStream(fc.nat()), (events, dice) => {
      const before = said(events);
      const shuffled = [...events, ...events.slice(0, 3)]
        .map((e) => ({ e, at: dice.next().value as number }))
        .sort((a, b) => a.at - b.at)
        .map(({ e }) => e);
      expect(said(shuffled)).toEqual(before);
    }),
    { seed: 1, numRuns: runs(300) },
  );
});

test("an event more never takes an attempt back, except an undoing; nothing of an old attempt counts as made", () => {
  fc.assert(
    fc.property(anyEvents, (events) => {
      const plain = events.filter((e) => e.what !== "undone");
      for (let n = 0; n < plain.length; n++) {
        const [before, after] = [leadStates(CHAINS, plain.slice(0, n)), leadStates(CHAINS, plain.slice(0, n + 1))];
        for (const lead of LEADS) expect(after.get(lead)!.attempt).toBeGreaterThanOrEqual(before.get(lead)!.attempt);
      }
      const states = leadStates(CHAINS, plain);
      for (const [lead, { attempt, made }] of states) {
        const claims = plain.filter((e) => e.lead === lead && e.what === "made" && e.attempt === attempt);
        expect(made !== null).toBe(claims.length > 0);
      }
      for (const chain of CHAINS) expect(new Set(chain.map((l) => states.get(l)!.attempt)).size).toBe(1);
    }),
    { seed: 2, numRuns: runs(200) },
  );
});
