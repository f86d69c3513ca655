import type { Design } from "@gray-bench/core/design/model";
import { lookUp } from "@gray-bench/core/design/lookup";
import { byText } from "@gray-bench/core/design/order";
import { behindLast } from "@gray-bench/core/panel/stands";
import type { Placings } from "@gray-bench/core/placing";
import type { Rules } from "@gray-bench/core/shop/rules";
import { useEffect, useMemo, useRef, useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { formatLength, keepTags } from "../kit/format";
import { Overlay } from "../kit/Overlay";
import { useSettings } from "../kit/settings";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useEdit, type Outcome } from "../queries/useEdits";
import { askPlaces, type PlaceAsker } from "./placeAsker";
import { wireWords } from "./wireWords";

type Found = ReturnType<Placings["furnish"]>;

const SPARES = [
  ["0", "none"],
  ["10", "10 %"],
  ["20", "20 %"],
] as const;
const ORDERS = [
  ["free", "any"],
  ["rows", "rows kept"],
] as const;

interface RailChoice {
  tag: string;
  face: string;
  freeMm: number;
}

/** Rails with room behind what stands on them, face by face from above. */
function railsOf(design: Design, devices: ReadonlySet<string>): RailChoice[] {
  const look = lookUp(design);
  return [...look.rails.values()]
    .filter((r) => look.faces.has(r.face))
    .sort((a, b) => byText(a.face, b.face) || b.y - a.y || a.x - b.x)
    .map((r) => ({ tag: r.tag, face: r.face, freeMm: r.length - behindLast(design, r.tag, devices) }))
    .filter((r) => r.freeMm > 0);
}

/** Proposes places for chosen devices: shown with what it is worth, and laid by one edit. */
export function Furnish({
  job,
  design,
  rules,
  devices,
  close,
  laid,
}: {
  job: string;
  design: Design;
  rules: Rules;
  /** In the order of the list. */
  devices: readonly string[];
  close(): void;
  laid(outcome: Outcome): void;
}) {
  const settings = useSettings();
  const lay = useEdit(job);
  const all = useMemo(() => railsOf(design, new Set(devices)), [design, devices]);
  const [rails, setRails] = useState<ReadonlySet<string>>(
    () => new Set(all.filter((r) => r.face === all[0]?.face).map((r) => r.tag)),
  );
  const [order, setOrder] = useState<"free" | "rows">("free");
  const [spare, setSpare] = useState<"0" | "10" | "20">("0");
  const asked = useMemo(
    () => ({
      devices,
      rails: all.filter((r) => rails.has(r.tag)).map((r) => r.tag),
      keepRows: order === "rows",
      sparePercent: Number(spare),
    }),
    [devices, all, rails, order, spare],
  );
  const { found, failed, waiting, propose } = useProposal(design, rules);
  const key = JSON.stringify(asked);
  const shown = found?.key === key ? found.found : null;
  const toggle = (tag: string): void =>
    setRails((now) => {
      const next = new Set(now);
      if (!next.delete(tag)) next.add(tag);
      return next;
    });
  const proposal = shown?.proposal;
  return (
    <Overlay title="Furnish for me" close={close} testID="furnish">
      <View className="gap-3 p-3">
        <Body>
          {devices.length === 1 ? keepTags(devices[0]!) : `${devices.length} devices`}: places on rails with short
          wires, as near to each other as their parts allow, behind what stands there already. Nothing is moved before
          you say so.
        </Body>
        <View role="group" aria-label="Rails" className="gap-1">
          <Head>Rails</Head>
          <View className="flex-row flex-wrap gap-2">
            {all.map((r) => (
              <Button
                key={r.tag}
                label={`${keepTags(r.tag)} on ${keepTags(r.face)}, ${formatLength(r.freeMm, settings)} free`}
                pressed={rails.has(r.tag)}
                onPress={() => toggle(r.tag)}
                testID={`furnish-rail-${r.tag}`}
              />
            ))}
          </View>
          {all.length === 0 ? <Small>No rail has room. Add one first.</Small> : null}
        </View>
        <Choice<"free" | "rows">
          label="Order"
          value={order}
          options={ORDERS}
          choose={setOrder}
          testID="furnish-order"
        />
        {order === "rows" ? (
          <Small>Tags that differ in their figures alone stay side by side, in their order.</Small>
        ) : null}
        <Choice<"0" | "10" | "20">
          label="Left free on each rail"
          value={spare}
          options={SPARES}
          choose={setSpare}
          testID="furnish-spare"
        />
        {waiting === key ? (
          <Loading text="Looking for places" />
        ) : (
          <Button
            kind={proposal?.ok ? "plain" : "solid"}
            label="Propose"
            disabled={asked.rails.length === 0}
            onPress={() => propose(asked, key)}
            testID="furnish-propose"
          />
        )}
        {failed ? <Failed error={new Error(failed)} /> : null}
        {proposal && !proposal.ok ? (
          <View role="alert" testID="furnish-refused">
            <Body className="text-brick">{keepTags(proposal.reason)}.</Body>
            <Small>{keepTags(proposal.remedy)}</Small>
          </View>
        ) : null}
        {proposal?.ok ? (
          <View className="gap-2" testID="furnish-found" role="status">
            <Body>{shown?.then ? keepTags(wireWords(shown.then, settings)) : ""}</Body>
            <Small testID="furnish-worth">
              From pin to pin {formatLength(proposal.spanMm, settings)}
              {proposal.listMm === null
                ? "; in the order of the list they do not fit"
                : `; in the order of the list ${formatLength(proposal.listMm, settings)}`}
              . No order can come below {formatLength(proposal.boundMm, settings)}.{" "}
              {proposal.isBest
                ? "All orders were looked at: none is shorter."
                : "Found by a search: a shorter one may be."}
            </Small>
            {shown?.then && shown.listed ? (
              <Small>
                All wire then {formatLength(shown.then.wireMm.then, settings)}; in the order of the list{" "}
                {formatLength(shown.listed.wireMm.then, settings)}.
              </Small>
            ) : null}
            <View role="list" aria-label="Places">
              {asked.rails.map((rail) => {
                const on = proposal.places.filter((p) => p.rail === rail).sort((a, b) => a.x - b.x);
                return on.length === 0 ? null : (
                  <View key={rail} role="listitem" className="border-t border-line py-1">
                    <Small>{keepTags(rail)}</Small>
                    <Mono>{keepTags(on.map((p) => p.device).join("  "))}</Mono>
                  </View>
                );
              })}
            </View>
            <Button
              kind="solid"
              label="Put them there"
              disabled={lay.isPending}
              onPress={() =>
                lay.mutate([{ kind: "place many", payload: { places: proposal.places } }], {
                  onSuccess(outcome) {
                    laid(outcome);
                    close();
                  },
                })
              }
              testID="furnish-put"
            />
            {lay.error ? <Failed error={lay.error} /> : null}
          </View>
        ) : null}
        <Button label="Cancel" onPress={close} testID="furnish-cancel" />
      </View>
    </Overlay>
  );
}

/** Asks a worker for places, as long as the sheet is open. */
function useProposal(design: Design, rules: Rules) {
  const asker = useRef<{ design: Design; asker: PlaceAsker } | null>(null);
  const [found, setFound] = useState<{ key: string; found: Found } | null>(null);
  const [failed, setFailed] = useState("");
  const [waiting, setWaiting] = useState("");
  useEffect(() => () => asker.current?.asker.close(), []);
  const propose = (ask: Parameters<Placings["furnish"]>[0], key: string): void => {
    if (asker.current?.design !== design) {
      asker.current?.asker.close();
      asker.current = { design, asker: askPlaces({ design, rules }) };
    }
    setWaiting(key);
    setFailed("");
    asker.current.asker.ask("furnish", { kind: "furnish", ask }, (a) => {
      setWaiting("");
      if ("furnished" in a) setFound({ key, found: a.furnished });
      else setFailed("failed" in a ? a.failed : "");
    });
  };
  return { found, failed, waiting, propose };
}
