import type { JobSummary } from "@gray-bench/contract/jobs";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { askEffect } from "../queries/useJobs";
import { sayTold } from "../kit/format";
import { useSettings } from "../kit/settings";

/** Two computations of a job that were on the screen one after the other. */
interface Step {
  job: string;
  from: string | null;
  to: string;
}

/** What the last change came to: `3 wires longer by 420 mm in all, 1 open point solved`. Null when nothing changed here. */
export function useEffectLine({ code, key, run }: Pick<JobSummary, "code" | "key" | "run">): string | null {
  const settings = useSettings();
  const [step, setStep] = useState<Step | null>(null);
  const done = run === "done";
  useEffect(() => {
    if (!done) return;
    setStep((s) =>
      s?.job !== code ? { job: code, from: null, to: key } : s.to === key ? s : { job: code, from: s.to, to: key },
    );
  }, [done, code, key]);
  const from = step?.job === code ? step.from : null;
  const { data } = useQuery({
    ...askEffect(code, from, step?.to),
    enabled: from !== null && done && step?.to === key,
  });
  if (!data) return null;
  const points = (n: number, what: string): string[] =>
    n > 0 ? [`${n} open ${n === 1 ? "point" : "points"} ${what}`] : [];
  const said = [
    ...data.words.map((w) => sayTold(w, settings)),
    ...points(data.solved, "solved"),
    ...points(data.raised, "new"),
  ];
  return said.length > 0 ? said.join(", ") : "no number changed";
}
