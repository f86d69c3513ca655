import { useLocalSearchParams } from "expo-router";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useOpenPoints } from "../../../queries/useJobs";
import { OpenPointsView } from "../../../open/OpenPointsView";

function Points({ job }: { job: string }) {
  const { as, point } = useLocalSearchParams<{ as?: string; point?: string }>();
  return (
    <WithResult result={useOpenPoints(job)} what="open points">
      {(points) => <OpenPointsView job={job} points={points} as={as} chosen={point} />}
    </WithResult>
  );
}

export default function OpenPoints() {
  return <JobPage view="Open points">{(job) => <Points job={job.code} />}</JobPage>;
}
