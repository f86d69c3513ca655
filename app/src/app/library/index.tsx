import { useLocalSearchParams } from "expo-router";
import { LibraryView } from "../../library/LibraryView";
import { Shell } from "../../shell/Shell";

export default function LibraryRoute() {
  const { part, q, lacks, fill } = useLocalSearchParams<{ part?: string; q?: string; lacks?: string; fill?: string }>();
  return (
    <Shell title="Library">
      <LibraryView part={part} q={q} lacks={lacks} filling={fill !== undefined} />
    </Shell>
  );
}
