import { useLocalSearchParams } from "expo-router";
import { RecordView } from "../record/RecordView";
import { Shell } from "../shell/Shell";

export default function Record() {
  const { job } = useLocalSearchParams() as { job?: string };
  return (
    <Shell title="Record">
      <RecordView job={job} />
    </Shell>
  );
}
