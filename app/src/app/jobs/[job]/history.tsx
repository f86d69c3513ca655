import { useLocalSearchParams } from "expo-router";
import { HistoryView } from "../../../edits/HistoryView";
import { useEditLog } from "../../../queries/useEdits";
import { Named } from "../../../kit/Named";
import { JobPage, WithResult } from "../../../jobs/JobPage";

function Page({ job }: { job: string }) {
  const { edit, of } = useLocalSearchParams<{ edit?: string; of?: string }>();
  return (
    <WithResult result={useEditLog(job)} what="the history">
      {(log) => (
        <Named
          things={[{ param: "edit", what: "edit", name: edit, there: log.edits.some((e) => e.id === edit) }]}
          remedy="It was made on another job, or the address was cut off."
        >
          <HistoryView job={job} log={log} chosen={edit} of={of} />
        </Named>
      )}
    </WithResult>
  );
}

export default function History() {
  return <JobPage view="History">{(job) => <Page job={job.code} />}</JobPage>;
}
