import { View } from "react-native";
import { FileLink } from "./FileLink";

/** Files of a job side by side, by their names with what each is called here. */
export function FileLinks({
  job,
  files,
  label,
}: {
  job: string;
  files: readonly (readonly [name: string, label: string])[];
  label: string;
}) {
  return (
    <View className="min-w-0 shrink flex-row flex-wrap gap-2" role="group" aria-label={label}>
      {files.map(([name, text]) => (
        <FileLink
          key={name}
          href={`/api/jobs/${encodeURIComponent(job)}/files/${name}`}
          label={text}
          testID={`file-${name}`}
        />
      ))}
    </View>
  );
}
