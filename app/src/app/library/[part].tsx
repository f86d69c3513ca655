import { useLocalSearchParams } from "expo-router";
import { PartPage } from "../../library/part/PartPage";
import { Shell } from "../../shell/Shell";

export default function PartRoute() {
  const { part, pin, side, uses } = useLocalSearchParams<{
    part: string;
    pin?: string;
    side?: string;
    uses?: string;
  }>();
  return (
    <Shell title={`Part ${part}`}>
      <PartPage key={part} number={part} pin={pin} side={side !== undefined} uses={uses !== undefined} />
    </Shell>
  );
}
