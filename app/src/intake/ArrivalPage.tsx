import type { Arrival } from "@gray-bench/contract/intake";
import { router } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import Undo2 from "lucide-react-native/icons/undo-2";
import { Button } from "../kit/Button";
import { useTokens } from "../kit/settings";
import { Failed, Loading } from "../kit/States";
import { Tabs } from "../kit/Tabs";
import { Body, Small, Title } from "../kit/Text";
import { useWide } from "../kit/useWide";
import type { Href } from "expo-router";
import { ArrivalTables } from "./ArrivalTables";
import { LayoutPane } from "./layout/LayoutPane";
import { Outcome } from "./Outcome";
import { TableMatch } from "./TableMatch";
import { useArrival, useDeleteArrival } from "../queries/useArrival";

const SHOWN = ["tables", "columns", "outcome"] as const;
type Shown = (typeof SHOWN)[number];
const wordsOf = (drawn: boolean): Record<Shown, string> => ({
  tables: "Files",
  columns: drawn ? "Drawing" : "Columns",
  outcome: "What it becomes",
});

interface Props {
  id: string;
  table?: string;
  field?: string;
  drawing?: string;
  /** Of the drawing: a face that it shows, and a frame that could be one. */
  view?: string;
  frame?: string;
  show?: string;
}

/** Files on their way to a job: what they hold, what columns and drawings tell, and what they become. */
export function ArrivalPage({ id, table, field, drawing, view, frame, show }: Props) {
  const wide = useWide();
  const act = useArrival(id);
  const { data: arrival, error, refetch } = act;
  if (!arrival)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the files" />;
  const drawn = among(drawing, arrival.drawings.length);
  const at = drawn > 0 ? 0 : among(table ?? (wide ? "1" : undefined), arrival.tables.length);
  const said = SHOWN.find((s) => s === show);
  const some = table !== undefined || drawing !== undefined;
  const now: Shown = said ?? (at + drawn > 0 && some ? "columns" : "tables");
  const unknown = some && at + drawn === 0 && arrival.tables.length + arrival.drawings.length > 0;
  const tables = <ArrivalTables arrival={arrival} at={at} drawn={drawn} act={act} />;
  const columns =
    drawn > 0 ? (
      <LayoutPane
        key={`${arrival.drawings[drawn - 1]!.file} ${drawn}`}
        arrival={arrival}
        at={drawn}
        view={view}
        frame={frame}
        act={act}
      />
    ) : at > 0 ? (
      <TableMatch key={`${arrival.tables[at - 1]!.file} ${at}`} arrival={arrival} at={at} field={field} act={act} />
    ) : (
      <View className="p-3" testID="no-table">
        <Small>
          {arrival.tables.length + arrival.drawings.length === 0
            ? "Add the tables of the design first: devices, connections, and whatever else came with them."
            : unknown
              ? `There is no ${drawing === undefined ? `table ${table}` : `drawing ${drawing}`} here. Choose one of the list.`
              : "Choose a table or a drawing to see what it tells."}
        </Small>
      </View>
    );
  const outcome = <Outcome arrival={arrival} act={act} />;
  const href = (s: Shown): Href =>
    `/arrivals/${id}?${new URLSearchParams({ ...(at > 0 ? { table: String(at) } : {}), ...(drawn > 0 ? { drawing: String(drawn) } : {}), show: s }).toString()}` as Href;
  return (
    <View className="min-h-0 flex-1">
      <HeadLine arrival={arrival} act={act} />
      {wide ? (
        <View className="min-h-0 flex-1 flex-row">
          <ScrollView className="w-72 grow-0 border-r border-line" testID="pane-tables">
            {tables}
          </ScrollView>
          <Middle drawn={drawn > 0}>{columns}</Middle>
          <ScrollView className="w-88 grow-0 border-l border-line" testID="pane-outcome">
            {outcome}
          </ScrollView>
        </View>
      ) : (
        <>
          <Tabs
            label="Of these files"
            tabs={SHOWN.map((s) => ({ id: s, title: wordsOf(drawn > 0)[s], href: href(s) }))}
            now={now}
          />
          {now === "columns" ? (
            <Middle drawn={drawn > 0}>{columns}</Middle>
          ) : (
            <ScrollView className="flex-1">{{ tables, outcome }[now]}</ScrollView>
          )}
        </>
      )}
    </View>
  );
}

/** A number of a list, counted from 1; 0 where it is none of it. */
function among(text: string | undefined, count: number): number {
  const n = Number(text ?? "0");
  return Number.isInteger(n) && n >= 1 && n <= count ? n : 0;
}

/** A drawing keeps its place while what is said of it scrolls. */
const Middle = ({ drawn, children }: { drawn: boolean; children: React.ReactNode }) =>
  drawn ? (
    <View className="min-h-0 min-w-0 flex-1" testID="pane-columns">
      {children}
    </View>
  ) : (
    <ScrollView className="min-w-0 flex-1" testID="pane-columns">
      {children}
    </ScrollView>
  );

/** What is being done, undoing it, and giving it up. */
function HeadLine({ arrival, act }: { arrival: Arrival; act: ReturnType<typeof useArrival> }) {
  const t = useTokens();
  const drop = useDeleteArrival();
  const [asked, setAsked] = useState(false);
  const { of } = arrival;
  return (
    <View className="gap-1 border-b border-line px-3 py-2">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Title>{of === null ? "Files for a new job" : `Files for a new revision of ${of}`}</Title>
        </View>
        <Button
          label="Undo"
          bare
          disabled={act.undoes === 0 || act.change.isPending}
          icon={<Undo2 size={20} color={t.graphite} />}
          onPress={act.undo}
          testID="arrival-undo"
        />
        <Button label="Delete" onPress={() => setAsked(true)} testID="arrival-delete" />
      </View>
      {asked ? (
        <View role="status" className="flex-row flex-wrap items-center gap-2 border-l-4 border-harbour pl-3">
          <Body className="min-w-50 flex-1">
            The files go from here, and what was said of them. {of === null ? "" : `${of} stays as it is.`}
          </Body>
          <Button
            label="Delete them"
            onPress={() => drop.mutate(arrival, { onSuccess: () => router.replace("/") })}
            testID="arrival-delete-now"
          />
          <Button label="Cancel" onPress={() => setAsked(false)} testID="arrival-delete-leave" />
        </View>
      ) : null}
      {drop.error ? <Failed error={drop.error} /> : null}
      {act.change.error ? <Failed error={act.change.error} /> : null}
      {act.add.error ? <Failed error={act.add.error} /> : null}
    </View>
  );
}
