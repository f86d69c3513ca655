import type { Arrival } from "@gray-bench/contract/intake";
import type { KeptDrawing, KeptMatching, KeptTable } from "@gray-bench/core/tables/kept";
import { useState } from "react";
import { View } from "react-native";
import { call } from "../kit/api";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { Failed } from "../kit/States";
import { Head, Small } from "../kit/Text";
import { useMatchings } from "../queries/useArrival";

/** Keeps what was said of the columns under a name, so that the next files of the same customer are read alike. */
export function KeepMatching({ arrival }: { arrival: Arrival }) {
  const { matchings, keep, drop } = useMatchings();
  const [name, setName] = useState<string | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const wanted = (name ?? arrival.job.customer).trim();
  const known = matchings?.find((m) => m.name === wanted);
  const store = async (): Promise<void> => {
    setError(null);
    try {
      const { tables, drawings = [] } = await call<KeptMatching>(`/arrivals/${arrival.id}/matching.json`);
      keep.mutate({ name: wanted, tables: joined(known, tables), drawings: drawnToo(known, drawings) });
    } catch (e) {
      setError(e as Error);
    }
  };
  return (
    <View className="gap-2" testID="keep-matching">
      <Head>For the next time</Head>
      <Small>
        Kept under a name, usually the customer's, these columns are found again by their headings, and drawings by
        their layers, in files that come later.
      </Small>
      <Field
        label="Name of the matching"
        value={name ?? arrival.job.customer}
        change={setName}
        testID="matching-name"
      />
      <View className="flex-row flex-wrap items-center gap-2">
        <Button
          label={known ? "Keep it anew" : "Keep it"}
          disabled={wanted === "" || keep.isPending}
          onPress={() => void store()}
          testID="matching-keep"
        />
        {known ? <Button label="Delete it" onPress={() => drop.mutate(known.name)} testID="matching-delete" /> : null}
      </View>
      {keep.isSuccess && known ? (
        <Small role="status" testID="matching-kept">
          Kept as {known.name}: {known.tables.length} {known.tables.length === 1 ? "table" : "tables"}
          {known.drawings ? `, ${known.drawings.length} ${known.drawings.length === 1 ? "drawing" : "drawings"}` : ""}.
        </Small>
      ) : null}
      <FileLink
        href={`/api/arrivals/${arrival.id}/matching.json`}
        label="Download it for the command line"
        testID="matching-file"
      />
      {(error ?? keep.error ?? drop.error) ? <Failed error={error ?? keep.error ?? drop.error} /> : null}
    </View>
  );
}

const drawnToo = (before: KeptMatching | undefined, drawings: KeptDrawing[]): KeptDrawing[] => {
  const there = new Set(drawings.map((d) => d.name));
  return [...drawings, ...(before?.drawings ?? []).filter((d) => !there.has(d.name))].slice(0, MOST_DRAWINGS);
};
const MOST_DRAWINGS = 20;

/** What was kept before of tables with other headings stays. */
function joined(before: KeptMatching | undefined, tables: KeptTable[]): KeptTable[] {
  const there = new Set(tables.map((t) => JSON.stringify(t.headings)));
  return [...tables, ...(before?.tables ?? []).filter((t) => !there.has(JSON.stringify(t.headings)))].slice(0, 50);
}
