import { DeskView } from "../../../jobs/DeskView";
import { JobPage } from "../../../jobs/JobPage";

export default function Desk() {
  return <JobPage view="">{(job, progress) => <DeskView job={job} progress={progress} />}</JobPage>;
}
