import { useLocalSearchParams } from "expo-router";
import { ArrivalPage } from "../../intake/ArrivalPage";
import { Shell } from "../../shell/Shell";

export default function ArrivalRoute() {
  const { arrival, table, field, show } = useLocalSearchParams<{
    arrival: string;
    table?: string;
    field?: string;
    show?: string;
  }>();
  return (
    <Shell title="Files of a design">
      <ArrivalPage id={arrival} table={table} field={field} show={show} />
    </Shell>
  );
}
