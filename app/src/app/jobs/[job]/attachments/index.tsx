import { AttachmentsView } from "../../../../attachments/AttachmentsView";
import { JobPage } from "../../../../jobs/JobPage";

export default function Attachments() {
  return <JobPage view="Attachments">{(job) => <AttachmentsView job={job} />}</JobPage>;
}
