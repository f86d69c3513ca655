import type { Design } from "@gray-bench/core/design/model";
import type { LineupRules } from "@gray-bench/core/lineups/rules";
import { membersOf, type DrawingOptions, type OrderKind, type StripPlan } from "@gray-bench/core/lineups/result";
import { useState } from "react";
import { View } from "react-native";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { LinkLine } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Body, Head, Small } from "../kit/Text";
import { makeAct, orderAct, stripActs } from "@gray-bench/core/lineups/acts";

/** The strip as a whole: how long it is, what is free, what can be done with it, better orders, its drawings. */
export function StripSheet({
  job,
  strip,
  others,
  design,
  rules,
  laid,
}: {
  job: string;
  strip: StripPlan;
  others: readonly string[];
  design: Design;
  rules: LineupRules;
  laid(o: Outcome): void;
}) {
  const settings = useSettings();
  return (
    <View className="gap-4 p-3" testID="strip-sheet">
      <View className="gap-1" testID="strip-sum">
        <Body>{keepTags(`${membersOf(strip).length} members on rail ${strip.rail}, ${sumText(strip, settings)}`)}</Body>
        <Small>
          {strip.at === null
            ? "Not laid: its members stand where each says itself."
            : `Laid at ${formatLength(strip.at, settings)} of ${strip.rail}: its members stand where it says.`}
        </Small>
        {strip.spares.map((s) => (
          <Small key={String(s.sizeMaxMm2)}>
            {s.free} of {s.clamps} clamps free
            {s.sizeMaxMm2 === null ? "" : ` for up to ${formatSize(s.sizeMaxMm2, settings)}`}
          </Small>
        ))}
        <View className="flex-row flex-wrap gap-4">
          <LinkLine href={thingHref(job, "rail", strip.rail)} label={`${strip.rail} in the panel`} />
          <LinkLine href={jobHref(job, "open-points", { q: strip.tag })} label="Open points" />
        </View>
      </View>
      <OnPages job={job} kind="strip" of={strip.tag} />
      <Acts
        job={job}
        acts={[...stripActs(strip, others, design, rules), makeAct(design)]}
        label={`Strip ${strip.tag}`}
        about={strip.tag}
        laid={laid}
        testID="strip"
      />
      <Orders job={job} strip={strip} laid={laid} />
      <Drawings job={job} strip={strip.tag} />
    </View>
  );
}

/** `90.3 mm with accessories; 403.7 mm of the rail stay free` */
export function sumText(strip: StripPlan, settings: Parameters<typeof formatLength>[1]): string {
  if (strip.lengthMm === null) return "length not known";
  const length = `${formatLength(strip.lengthMm, settings)} with accessories`;
  if (strip.railMm === null) return length;
  const left = strip.railMm - (strip.takenMm ?? 0) - strip.lengthMm;
  return left >= 0
    ? `${length}; ${formatLength(left, settings)} of the rail stay free`
    : `${length}; ${formatLength(-left, settings)} are missing on the rail`;
}

const TITLES: Record<OrderKind, string> = {
  any: "Any order, groups kept",
  ascending: "Numbers ascending, groups kept",
};

/** How good the order is, and a better one with what it changes. */
function Orders({ job, strip, laid }: { job: string; strip: StripPlan; laid(o: Outcome): void }) {
  const now = membersOf(strip).map((m) => m.tag);
  return (
    <View className="gap-2" testID="orders">
      <Head>Order of the members</Head>
      <Small>
        Now {crossings(strip.orders.any.now.crossings)} of cores, and {pieces(strip.orders.any.now.pieces)} to join what
        is of one net.
      </Small>
      {(Object.keys(TITLES) as OrderKind[]).map((kind) => {
        const { members, then, least, proved } = strip.orders[kind];
        const same = members.every((m, i) => m === now[i]);
        return (
          <View key={kind} className="gap-1 border-l-4 border-line pl-3" testID={`order-${kind}`}>
            <Body className="font-medium">{TITLES[kind]}</Body>
            <Small>
              {same
                ? `${proved ? "None is better" : "No better one found"}: ${crossings(then.crossings)}, ${pieces(then.pieces)}`
                : `${crossings(then.crossings)}, ${pieces(then.pieces)}`}
              {proved
                ? "; compared with all orders."
                : `; no order can have fewer than ${least.crossings} and ${least.pieces}.`}
            </Small>
            {same ? null : (
              <>
                <Small>{keepTags(members.map((m) => m).join(" · "))}</Small>
                <Acts
                  job={job}
                  acts={[orderAct(strip, kind)]}
                  label={TITLES[kind]}
                  about={strip.tag}
                  laid={laid}
                  testID="take"
                />
              </>
            )}
          </View>
        );
      })}
    </View>
  );
}

const crossings = (n: number): string => (n === 1 ? "1 crossing" : `${n} crossings`);
const pieces = (n: number): string => (n === 1 ? "1 piece" : `${n} pieces`);

/** Sheets of the strip as PDF, SVG and DXF, as they are wanted. */
function Drawings({ job, strip }: { job: string; strip: string }) {
  const [stand, setStand] = useState<DrawingOptions["stand"]>("lying");
  const [swap, setSwap] = useState<"no" | "yes">("no");
  const [joined, setJoined] = useState<"no" | "yes">("no");
  const [turn, setTurn] = useState<"0" | "90" | "180" | "270">("0");
  const [scale, setScale] = useState("");
  const wanted = Number(scale.replace(",", "."));
  const wrong = scale.trim() !== "" && !(wanted >= 0.1 && wanted <= 10);
  const query = (as: string): string =>
    new URLSearchParams({
      strip,
      as,
      stand,
      swap: String(swap === "yes"),
      joined: String(joined === "yes"),
      turn,
      ...(scale.trim() !== "" && !wrong ? { scale: String(wanted) } : {}),
    }).toString();
  return (
    <View className="gap-3" testID="drawings">
      <Head>Drawing</Head>
      <Choice<DrawingOptions["stand"]>
        label="The strip"
        value={stand}
        options={[
          ["lying", "lies"],
          ["upright", "stands"],
        ]}
        choose={setStand}
        testID="stand"
      />
      <Choice<"no" | "yes">
        label="Inside and outside"
        value={swap}
        options={[
          ["no", "as here"],
          ["yes", "swapped"],
        ]}
        choose={setSwap}
        testID="swap"
      />
      <Choice<"no" | "yes">
        label="Sheets"
        value={joined}
        options={[
          ["no", "as many as it takes"],
          ["yes", "all on one"],
        ]}
        choose={setJoined}
        testID="joined"
      />
      <Choice<"0" | "90" | "180" | "270">
        label="Turned by"
        value={turn}
        options={[
          ["0", "0°"],
          ["90", "90°"],
          ["180", "180°"],
          ["270", "270°"],
        ]}
        choose={setTurn}
        testID="turn"
      />
      <Field
        label="Scale, 0.1 to 10; empty: as large as the texts need"
        value={scale}
        change={setScale}
        testID="scale"
      />
      {wrong ? (
        <Small className="font-medium text-brick">A number from 0.1 to 10, as 2 for twice as large.</Small>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        {["pdf", "svg", "dxf"].map((as) => (
          <FileLink
            key={as}
            href={`/api/jobs/${encodeURIComponent(job)}/stages/lineups/drawing?${query(as)}`}
            label={as.toUpperCase()}
            testID={`drawing-${as}`}
          />
        ))}
        <FileLink
          href={`/api/jobs/${encodeURIComponent(job)}/files/markers.pdf`}
          label="Markers at 1:1"
          testID="markers-pdf"
        />
      </View>
    </View>
  );
}
