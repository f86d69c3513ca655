import { JobsView } from "../jobs/JobsView";
import { Shell } from "../shell/Shell";

export default function Jobs() {
  return (
    <Shell title="Jobs">
      <JobsView />
    </Shell>
  );
}
