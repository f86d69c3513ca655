import { useLocalSearchParams } from "expo-router";
import { HistoryView } from "../../../edits/HistoryView";
import { useEditLog } from "../../../queries/useEdits";
import { JobPage, WithResult } from "../../../jobs/JobPage";

function Page({ job }: { job: string }) {
  const { edit } = useLocalSearchParams<{ edit?: string }>();
  return (
    <WithResult result={useEditLog(job)} what="the history">
      {(log) => <HistoryView job={job} log={log} chosen={edit} />}
    </WithResult>
  );
}

export default function History() {
  return <JobPage view="History">{(job) => <Page job={job.code} />}</JobPage>;
}
