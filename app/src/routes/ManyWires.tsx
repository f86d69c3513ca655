import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { useJob } from "../queries/useJobs";
import { manyWiresActs } from "@gray-bench/core/routes/wire-acts";

/** What can be done with several wires at once: each is one edit. */
export const ManyWires = ({
  job,
  wires,
  laid,
}: {
  job: string;
  wires: readonly string[];
  laid(outcome: Outcome): void;
}) => {
  const options = useJob(job).data?.options;
  return (
    <Acts
      job={job}
      acts={manyWiresActs(wires, options)}
      label="Change the chosen wires"
      about={wires.join()}
      laid={laid}
      testID="many"
    />
  );
};
