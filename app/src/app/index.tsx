import { useLocalSearchParams } from "expo-router";
import { JobsView } from "../jobs/JobsView";
import { Shell } from "../shell/Shell";

export default function Jobs() {
  const { q } = useLocalSearchParams<{ q?: string }>();
  return (
    <Shell title="Jobs">
      <JobsView {...(q ? { q } : {})} />
    </Shell>
  );
}
