import { useLocalSearchParams } from "expo-router";
import { HistoryView } from "../../../edits/HistoryView";
import { useEditLog } from "../../../queries/useEdits";
import { JobPage, WithResult } from "../../../jobs/JobPage";

function Page({ job }: { job: string }) {
  const { edit, of } = useLocalSearchParams<{ edit?: string; of?: string }>();
  return (
    <WithResult result={useEditLog(job)} what="the history">
      {(log) => <HistoryView job={job} log={log} chosen={edit} of={of} />}
    </WithResult>
  );
}

export default function History() {
  return <JobPage view="History">{(job) => <Page job={job.code} />}</JobPage>;
}
