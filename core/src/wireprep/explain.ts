import type { PrepRules } from "./rules";
import type { Term, Working } from "../frame/working";
import { changeCounts } from "./changes";
import { countsOf } from "./counts";
import type { BatchPlan, Lead, WireprepResult, WireprepSubject } from "./result";

const SHOP_TIME = "times of the shop";
const two = (v: number): number => Math.round(v * 100) / 100;

/** How a figure of the leads came to be. Null when it is not there. */
export function explain(result: WireprepResult, subject: WireprepSubject, rules: PrepRules): Working | null {
  switch (subject.of) {
    case "strip":
      return stripWorking(
        result.leads.find((l) => l.wire === subject.wire),
        subject.end,
      );
    case "minutes": {
      const batch = result.batches.find((b) => b.name === subject.batch);
      return batch ? minutesWorking(batch, subject.by, new Map(result.leads.map((l) => [l.wire, l])), rules) : null;
    }
    case "reel":
      return reelWorking(result, subject.nth, rules);
    case "saved":
      return savedWorking(result, subject.than, rules);
  }
}

function stripWorking(lead: Lead | undefined, which: "from" | "to"): Working | null {
  const end = lead?.[which];
  if (!lead || !end) return null;
  // What the bench puts on later is what it is stripped for.
  const [treatment, part] = end.later ? ["twin ferrule, by the bench", end.later.part] : [end.treatment, end.part];
  return {
    title: `Strip length of wire ${lead.wire} at ${end.device}:${end.pin}`,
    unit: "mm",
    terms: [
      {
        text: part === null ? "as the pin wants it" : `${treatment} ${part}`,
        ...(end.stripMm === null ? {} : { value: end.stripMm }),
        source: part === null ? "part library" : "what goes on an end, rule of the shop",
      },
      ...(end.stripWhy === null ? [] : [{ text: "the longer one counts", detail: end.stripWhy }]),
      ...(end.stripMm === null ? [{ text: "neither the pin nor a piece says a length", fallback: true as const }] : []),
    ],
    total: end.stripMm,
  };
}

const minutes = (text: string, n: number, each: number, source = SHOP_TIME): Term => ({
  text,
  value: two((n * each) / 60),
  detail: `${two(n)} × ${each} s`,
  source,
});

function minutesWorking(
  batch: BatchPlan,
  by: "machine" | "bench" | "hand",
  leadOf: ReadonlyMap<string, Lead>,
  rules: PrepRules,
): Working {
  const some = (wires: readonly string[]): Lead[] => wires.flatMap((w) => leadOf.get(w) ?? []);
  const onMachine = some(batch.chains.flat());
  const apart = some(batch.bench.map((b) => b.wire));
  const machine = rules.machines.find((m) => m.name === batch.machine) ?? null;
  const terms: Term[] = [];
  const atBench = (leads: readonly Lead[], said: string): Term[] => {
    const { n, crimps, labels, later } = countsOf(leads);
    return [
      minutes(`${said}cutting`, n, rules.cutS),
      minutes(`${said}stripping both ends`, 2 * n, rules.stripS),
      minutes(`${said}crimping, each shared crimp once`, crimps + later, rules.crimpS),
      minutes(`${said}labelling`, labels, rules.markS),
    ];
  };
  if (by === "machine") {
    if (machine && onMachine.length > 0) {
      const { reels, ends } = changeCounts(onMachine);
      const metres = onMachine.reduce((sum, l) => sum + l.lengthMm, 0) / 1000;
      terms.push(
        minutes("reels changed", reels, machine.reelS, `machine ${machine.name}`),
        minutes("pieces for ends changed", ends, machine.endS, `machine ${machine.name}`),
        minutes("leads", onMachine.length, machine.leadS, `machine ${machine.name}`),
        minutes("metres fed", metres, machine.metreS, `machine ${machine.name}`),
        minutes("labels put on by hand", countsOf(onMachine, machine).labels, rules.markS),
        minutes("twin ferrules that the bench puts on", countsOf(onMachine).later, rules.crimpS),
      );
    }
    if (apart.length > 0) terms.push(...atBench(apart, "at the bench: "));
  } else if (by === "bench") terms.push(...atBench([...onMachine, ...apart], ""));
  else {
    const { n, crimps, labels, later } = countsOf([...onMachine, ...apart]);
    terms.push(
      minutes("measuring and cutting", n, rules.handCutS),
      minutes("stripping both ends", 2 * n, rules.handStripS),
      minutes("crimping, each shared crimp once", crimps + later, rules.handCrimpS),
      minutes("labelling", labels, rules.handMarkS),
    );
  }
  const title = { machine: "with the machine", bench: "all at the bench", hand: "all by hand" }[by];
  return { title: `Minutes for ${batch.name}, ${title}`, unit: "min", terms, total: two(batch.minutes[by]) };
}

function reelWorking({ reels, leads }: WireprepResult, nth: number, rules: PrepRules): Working | null {
  const reel = reels[nth - 1];
  if (!reel) return null;
  const lengths = new Map(leads.map((l) => [l.wire, l.lengthMm]));
  const cut = reel.wires.reduce((sum, w) => sum + (lengths.get(w) ?? 0), 0) / 1000;
  return {
    title: `Taken off ${reel.reel ?? "a full reel"} of ${reel.wire}`,
    unit: "m",
    terms: [
      { text: `${reel.wires.length} leads`, value: two(cut) },
      {
        text: "waste on the machine",
        value: two(reel.usedM) - two(cut),
        detail: `${rules.reelWastePercent} %`,
        source: "rule of the shop",
      },
      ...(reel.assumed
        ? [{ text: `a full reel is taken to be ${reel.metres} m: the library says no pack`, fallback: true as const }]
        : []),
    ],
    total: two(reel.usedM),
  };
}

function savedWorking({ batches, saved }: WireprepResult, than: "bench" | "hand", rules: PrepRules): Working {
  const other = than === "bench" ? "all at the bench" : "all by hand";
  return {
    title: `Minutes saved against ${other}`,
    unit: "min",
    terms: [
      ...batches.map((b) => ({ text: `${b.name}, ${other}`, value: two(b.minutes[than]) })),
      ...batches.map((b) => ({ text: `${b.name}, with the machine`, value: -two(b.minutes.machine) })),
      {
        text: "in money",
        detail: `${two(saved[than === "bench" ? "thanBench" : "thanHand"].hours)} h × ${rules.hourPrice}`,
        source: "what an hour costs, rule of the shop",
      },
    ],
    total: two(saved[than] - saved.machine),
  };
}
