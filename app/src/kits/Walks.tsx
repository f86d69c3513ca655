import { explain } from "@gray-bench/core/kits/explain";
import { planOf } from "@gray-bench/core/kits/plan";
import { lineKey } from "@gray-bench/core/kits/result";
import { storeOf } from "@gray-bench/core/kits/walk";
import { useMemo } from "react";
import { ScrollView, View } from "react-native";
import { LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small } from "../kit/Text";
import { TOUCH_PX } from "../kit/tokens";
import { useWide } from "../kit/useWide";
import { WorkingTable } from "../working/WorkingTable";
import { pickHref, takenOf, type Props } from "./choice";
import { kitName } from "./KitCard";
import { StoreDrawing } from "./StoreDrawing";
import { walkFor } from "./toPick";
import { useAmounts } from "./useAmounts";

/** The plan of the store with the walk for the chosen kits, or for all of them at once. */
export function Walks({ job, result, rules, choice }: Props) {
  const wide = useWide();
  const { walk: far, amount } = useAmounts();
  const kits = useMemo(() => {
    const taken = takenOf(choice);
    return taken.length === 0 ? result.kits : result.kits.filter((k) => taken.includes(k.code));
  }, [result, choice]);
  const store = useMemo(() => storeOf(rules), [rules]);
  const { walk, saves } = useMemo(() => walkFor(kits, result, store, far), [kits, result, store, far]);
  const plan = useMemo(() => planOf(rules, walk, store), [rules, walk, store]);
  if (walk.stops.length === 0)
    return (
      <Empty title="No walk" text="Nothing of these kits has a place in the store. Parts of the library say theirs." />
    );
  const only = kits.length === 1 ? kits[0]! : null;
  const all = kits.length === result.kits.length;
  const working =
    choice.working === "walk" ? explain(result, { of: "walk", ...(only ? { kit: only.code } : {}) }) : null;
  const unknown = new Set(walk.unknown);
  const list = (
    <ScrollView className={wide ? "w-100 grow-0 border-l border-line" : "flex-1"} contentContainerClassName="gap-3 p-3">
      <View className="gap-1">
        <Head>{only ? keepTags(kitName(only)) : all ? `All ${kits.length} kits` : `${kits.length} kits`}</Head>
        <button
          type="button"
          data-testid="working-walk"
          aria-expanded={working !== null}
          disabled={!only && !all}
          onClick={() => choose({ working: working ? undefined : "walk" })}
          className="border-0 bg-transparent p-0 text-left font-text"
          style={{ minHeight: TOUCH_PX, cursor: "pointer" }}
        >
          <Body testID="walk-sum" className={only || all ? "underline decoration-dotted" : ""}>
            {far(walk.metres)}, {saves}
          </Body>
        </button>
        {walk.boundMetres !== null && walk.boundMetres >= walk.metres - 1e-6 ? (
          <Small>No walk is shorter, proved.</Small>
        ) : null}
        {plan.lacking.length > 0 ? (
          <Small className="text-ochre">
            The plan of the store says nothing of {plan.lacking.join(", ")}: what passes there is not drawn.
          </Small>
        ) : null}
        {working ? (
          <View className="border-l-4 border-verdigris pl-3">
            <WorkingTable working={working} job={job.code} />
          </View>
        ) : null}
        <View className="flex-row flex-wrap gap-4">
          <LinkLine
            href={pickHref(
              job.code,
              kits.map((k) => k.code),
            )}
            testID="walk-pick"
            label={kits.length === 1 ? "Pick it so" : "Pick them so"}
          />
          {all ? null : (
            <LinkLine href={jobHref(job.code, "kits", { show: "walk" })} testID="walk-all" label="All kits" />
          )}
        </View>
      </View>
      <View role="list" aria-label="Places in the order of the walk">
        {walk.stops.map((place, i) => (
          <View key={place} role="listitem">
            <TapRow
              press={() => choose({ line: place === choice.line ? undefined : place }, true)}
              on={place === choice.line}
              testID={`stop-${i + 1}`}
            >
              <Small className="w-6 text-right">{unknown.has(place) ? "–" : i + 1}</Small>
              <Mono className="w-23">{place}</Mono>
              <View className="min-w-0 flex-1">
                {kits.flatMap((k) =>
                  k.lines
                    .filter((l) => l.place === place)
                    .map((l) => (
                      <Small key={`${k.code} ${lineKey(l)}`} numberOfLines={1}>
                        {amount(l.quantity, l.unit)} {l.part ?? l.text}
                      </Small>
                    )),
                )}
                {unknown.has(place) ? <Small className="text-ochre">no way leads there</Small> : null}
              </View>
            </TapRow>
          </View>
        ))}
      </View>
    </ScrollView>
  );
  const drawing = <StoreDrawing plan={plan} chosen={choice.line} tap={(line) => choose({ line }, true)} />;
  return (
    <View className={wide ? "min-h-0 flex-1 flex-row" : "min-h-0 flex-1"}>
      <View className="min-h-0 min-w-0" style={wide ? { flex: 1 } : { height: "42%" }}>
        {drawing}
      </View>
      {list}
    </View>
  );
}
