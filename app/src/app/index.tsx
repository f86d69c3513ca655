import { JobsView } from "../jobs/JobsView";
import { Shell } from "../kit/Shell";

export default function Jobs() {
  return (
    <Shell title="Jobs">
      <JobsView />
    </Shell>
  );
}
