import { useLocalSearchParams } from "expo-router";
import { LibraryView } from "../../library/LibraryView";
import { Shell } from "../../shell/Shell";

export default function LibraryRoute() {
  const { part, q, lacks, fill, doubles, uses, files } =
    useLocalSearchParams<Partial<Record<"part" | "q" | "lacks" | "fill" | "doubles" | "uses" | "files", string>>>();
  return (
    <Shell title="Library">
      <LibraryView
        part={part}
        q={q}
        lacks={lacks}
        filling={fill !== undefined}
        doubles={doubles !== undefined}
        uses={uses !== undefined}
        files={files !== undefined}
      />
    </Shell>
  );
}
