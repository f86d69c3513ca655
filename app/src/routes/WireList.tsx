import type { Colours } from "@gray-bench/core/wiring/landings";
import type { Colour } from "@gray-bench/core/design/model";
import type { RoutesResult, WireRoute } from "@gray-bench/core/routes/result";
import { isFallback } from "@gray-bench/core/routes/result";
import { memo, useState } from "react";
import { Text, View } from "react-native";
import SlidersHorizontal from "lucide-react-native/icons/sliders-horizontal";
import { ToldLine } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { formatLength, formatSize } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Small } from "../kit/Text";
import { ManyRows } from "../kit/table/ManyRows";
import { useWide } from "../kit/useWide";
import { WireSwatch } from "../kit/WireSign";
import { FilterPanel } from "./FilterPanel";
import { endText } from "./ends";
import { NO_FILTER, type WireFilter } from "./filter";
import { ManyWires } from "./ManyWires";
import { WireTable } from "./WireTable";

interface Props {
  job: string;
  result: RoutesResult;
  wires: readonly WireRoute[];
  colours: Colours;
  filter: WireFilter;
  change(part: WireFilter): void;
  chosen: string | undefined;
  choose(wire: string): void;
}

const ROW_PX = 56;

const active = (f: WireFilter): string[] =>
  [
    f.enclosure,
    f.class,
    f.colour,
    f.device,
    f.net && `net ${f.net}`,
    f.crossing && `over ${f.crossing}`,
    f.show && f.show !== "all" ? f.show : undefined,
  ].filter((v): v is string => Boolean(v));

/** Every wire with its ends and its length. */
export function WireList({ job, result, wires, colours, filter, change, chosen, choose }: Props) {
  const { tokens } = useSettings();
  const wide = useWide();
  const [narrow, setNarrow] = useState(false);
  const [told, setTold] = useState<Outcome | null>(null);
  const words = active(filter);
  const count = (
    <Small testID="wire-count">
      {wires.length} of {result.wires.length} wires{words.length > 0 ? ` · ${words.join(", ")}` : ""}
    </Small>
  );
  const tools = (
    <View className="flex-row items-center gap-2">
      <View className="min-w-24 flex-1">
        <Field
          label="Find a wire"
          hideLabel
          hint="wire or pin"
          value={filter.q ?? ""}
          change={(q) => change({ q })}
          testID="wire-filter"
        />
      </View>
      {wide ? (
        <View className="max-w-24 shrink justify-center" role="status">
          {count}
        </View>
      ) : null}
      <Button
        label="Sort and narrow"
        bare
        pressed={words.length > 0}
        icon={<SlidersHorizontal size={20} color={tokens.graphite} />}
        onPress={() => setNarrow(true)}
        testID="narrow"
      />
    </View>
  );
  return (
    <View className="min-h-0 flex-1 bg-paper">
      {wide ? null : <View className="border-b border-line p-2">{tools}</View>}
      {wide ? null : (
        <View className="border-b border-line px-3 py-1" role="status">
          {count}
        </View>
      )}
      <ToldLine outcome={told} testID="many-told" />
      {result.wires.length === 0 ? (
        <Empty title="No wires" text="The design has no wires, or the chosen options leave all of them out." />
      ) : null}
      {wires.length === 0 && result.wires.length > 0 ? (
        <View className="items-start">
          <Empty title="No wire fits" text="Nothing passes what was typed and chosen." />
          <View className="px-4">
            <Button label="Show all" onPress={() => change(NO_FILTER)} />
          </View>
        </View>
      ) : null}
      {wide ? (
        <WireTable job={job} wires={wires} colours={colours} chosen={chosen} choose={choose} tools={tools} />
      ) : (
        <ManyRows
          label="Wires"
          one="wire"
          several="wires"
          testID="wire-list"
          rowTestID={(key) => `wire-${key}`}
          rows={wires}
          keyOf={idOf}
          chosen={chosen}
          choose={choose}
          acts={(keys) => <ManyWires job={job} wires={keys} laid={setTold} />}
          rowPx={ROW_PX}
          rowClass="flex-row items-center gap-2 px-2"
          row={(w) => <Row wire={w} colour={colours.get(w.id)?.value ?? null} />}
        />
      )}
      {narrow ? (
        <FilterPanel result={result} colours={colours} filter={filter} change={change} close={() => setNarrow(false)} />
      ) : null}
    </View>
  );
}

const idOf = (w: WireRoute): string => w.id;

const Row = memo(function Row({ wire: w, colour }: { wire: WireRoute; colour: Colour | null }) {
  const settings = useSettings();
  const length = w.lengthMm === null ? "no length" : formatLength(w.lengthMm, settings);
  const fallback = w.marks.some(isFallback);
  return (
    <>
      <Text className="w-touch text-right font-monoStrong text-cell text-graphite">{w.id}</Text>
      <WireSwatch colour={colour} />
      <View className="min-w-0 flex-1">
        <Text numberOfLines={1} className="font-mono text-small text-graphite">
          {endText(w.fromRef)} to {endText(w.toRef)}
        </Text>
        <Text numberOfLines={1} className="font-table text-small text-slate">
          {colour ?? "no colour"} · {w.sizeMm2 ? formatSize(w.sizeMm2.value, settings) : "no size"} ·{" "}
          {w.class ?? "no class"}
        </Text>
      </View>
      <View className="items-end">
        <Text className={`font-monoStrong text-cell ${w.lengthMm === null ? "text-brick" : "text-graphite"}`}>
          {length}
        </Text>
        {fallback ? <Text className="font-table text-tiny text-ochre">fallback</Text> : null}
      </View>
    </>
  );
});
