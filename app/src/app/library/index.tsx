import { useLocalSearchParams } from "expo-router";
import { LibraryView } from "../../library/LibraryView";
import { Shell } from "../../shell/Shell";

export default function LibraryRoute() {
  const { part, q, lacks } = useLocalSearchParams<{ part?: string; q?: string; lacks?: string }>();
  return (
    <Shell title="Library">
      <LibraryView part={part} q={q} lacks={lacks} />
    </Shell>
  );
}
