import { useLocalSearchParams } from "expo-router";
import { ArrivalPage } from "../../intake/ArrivalPage";
import { Shell } from "../../shell/Shell";

export default function ArrivalRoute() {
  const { arrival, ...chosen } = useLocalSearchParams<{
    arrival: string;
    table?: string;
    field?: string;
    drawing?: string;
    view?: string;
    frame?: string;
    show?: string;
  }>();
  return (
    <Shell title="Files of a design">
      <ArrivalPage id={arrival} {...chosen} />
    </Shell>
  );
}
