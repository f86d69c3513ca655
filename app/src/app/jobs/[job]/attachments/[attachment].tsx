import { useLocalSearchParams } from "expo-router";
import { DocumentPage } from "../../../../attachments/DocumentPage";
import { JobPage } from "../../../../jobs/JobPage";

export default function OneAttachment() {
  const { attachment, page, kind, of } = useLocalSearchParams<{
    attachment: string;
    page?: string;
    kind?: string;
    of?: string;
  }>();
  return (
    <JobPage view="Attachment">
      {(job) => <DocumentPage job={job} id={attachment} page={page} kind={kind} of={of} />}
    </JobPage>
  );
}
