import { lookUp } from "@gray-bench/core/design/lookup";
import { listed } from "@gray-bench/core/design/open-points";
import type { EntryPlan } from "@gray-bench/core/metalwork/result";
import { Link } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import Svg, { Circle, G, Rect, Text } from "react-native-svg";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { formatLength } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings, useTokens } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";
import { useWide } from "../kit/useWide";
import { glandsAct } from "@gray-bench/core/metalwork/acts";
import type { Props } from "./choice";

/** Cables as they come into each enclosure: glands there are, glands proposed, spare ones with their plugs. */
export function Entries({ job, result, design, panel, choice }: Props) {
  const [told, setTold] = useState<Outcome | null>(null);
  const { entries } = result;
  const wide = useWide();
  if (entries.length === 0)
    return (
      <Empty
        title="No cable comes in"
        text="Cables say where they come from; an enclosure named there gets its glands here."
      />
    );
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="gap-5 p-3"
      testID="entries"
      role="region"
      aria-label="Cables as they come in"
      // Scrolled by the keyboard too: nothing in it may take the focus.
      {...({ tabIndex: 0 } as object)}
    >
      <Told outcome={told} testID="entries-told" />
      {entries.map((plan) => {
        const act = glandsAct(plan, design);
        return (
          <View key={plan.enclosure} className="gap-2" testID={`entry-${plan.enclosure}`}>
            <Head>
              {plan.enclosure}: {plan.cables} cables come in through {plan.faces.join(" and ")}
            </Head>
            {plan.faces.map((face) => (
              <Picture key={face} plan={plan} id={face} design={design} panel={panel} width={wide ? 560 : 350} />
            ))}
            <Through plan={plan} design={design} panel={panel} />
            <Small testID={`plugs-${plan.enclosure}`}>
              {plan.spare.length === 0
                ? "No spare gland stands there."
                : `${plan.spare.length} spare ${plan.spare.length === 1 ? "gland has" : "glands have"} a blind plug: ${plan.spare.join(", ")}.`}
            </Small>
            {plan.proposed.length > 0 ? (
              <View className="gap-1">
                <Body>
                  {plan.proposed.filter((g) => g.cable !== null).length} cables have no gland yet. Proposed, in{" "}
                  {plan.rows} {plan.rows === 1 ? "row" : "rows"}:
                </Body>
                {plan.proposed.map((g, i) => (
                  <View
                    key={i}
                    className={`flex-row gap-3 border-b border-line py-1 ${g.cable === choice.cable ? "bg-tray" : ""}`}
                  >
                    <Mono className="w-20">{g.cable ?? "spare"}</Mono>
                    <Mono className="flex-1">{g.part}</Mono>
                    <Place x={g.x} y={g.y} />
                  </View>
                ))}
              </View>
            ) : null}
            {plan.spareWithout > 0 ? (
              <Small className="text-ochre">
                {plan.spareWithout} spare {plan.spareWithout === 1 ? "gland finds" : "glands find"} no room.
              </Small>
            ) : null}
            {plan.without.map((w) => (
              <View key={w.cable} className="flex-row flex-wrap items-center gap-2">
                <Link
                  href={thingHref(job, "cable", w.cable)}
                  className="min-h-touch min-w-touch py-3 font-mono text-cell text-harbour underline"
                >
                  {w.cable}
                </Link>
                <Small className="text-ochre">{w.why}</Small>
              </View>
            ))}
            {act ? (
              <Acts
                job={job}
                acts={[act]}
                label={plan.enclosure}
                about={plan.enclosure}
                laid={setTold}
                testID="entry"
              />
            ) : null}
          </View>
        );
      })}
    </ScrollView>
  );
}

function Place({ x, y }: { x: number; y: number }) {
  const settings = useSettings();
  return (
    <Mono>
      {formatLength(x, settings)}, {formatLength(y, settings)}
    </Mono>
  );
}

/** Which cables come through what stands there. */
function Through({ plan, design, panel }: { plan: EntryPlan } & Pick<Props, "design" | "panel">) {
  const cables = [...lookUp(design).cables.values()];
  const rows = panel.devices
    .filter((d) => plan.faces.includes(d.face))
    .map((d) => ({ ...d, cables: cables.filter((c) => c.gland === d.tag || c.glandTo === d.tag).map((c) => c.tag) }))
    .filter((d) => d.cables.length > 0);
  return (
    <View>
      {rows.map((d) => (
        <View key={d.tag} className="flex-row gap-3 border-b border-line py-1">
          <Mono className="w-20">{d.tag}</Mono>
          <Small className="min-w-0 flex-1">
            {d.part}, {d.cables.length} {d.cables.length === 1 ? "cable" : "cables"}: {listed(d.cables)}
          </Small>
        </View>
      ))}
    </View>
  );
}

/** The face from outside: what stands there, and what is proposed with a broken line. */
function Picture({
  plan,
  id,
  design,
  panel,
  width,
}: { plan: EntryPlan; id: string; width: number } & Pick<Props, "design" | "panel">) {
  const t = useTokens();
  const face = panel.faces.find((f) => f.id === id);
  if (!face) return null;
  const k = Math.min(width / face.w, 240 / face.h);
  const parts = new Map(design.parts.map((p) => [p.number, p]));
  const own = design.faces.find((f) => `${f.enclosure}/${f.kind}` === id);
  const there = panel.devices.filter((d) => d.face === id);
  const proposed = plan.proposed.filter((g) => g.face === id);
  const box = (r: { x: number; y: number; w: number; h: number }) => ({
    x: r.x * k,
    y: (face.h - r.y - r.h) * k,
    width: r.w * k,
    height: r.h * k,
  });
  const label = { fontFamily: FONTS.mono, fontSize: 12, fill: t.graphite, textAnchor: "middle" } as const;
  return (
    <Svg
      width={face.w * k + 2}
      height={face.h * k + 2}
      role="img"
      aria-label={`${id} from outside: ${there.length} glands and frames, ${proposed.length} proposed`}
    >
      <Rect x={1} y={1} width={face.w * k} height={face.h * k} fill={t.paper} stroke={t.graphite} strokeWidth={1.5} />
      {(own?.entries ?? []).map((e, i) => (
        <Rect key={i} {...box(e)} fill="none" stroke={t.harbour} strokeWidth={1.5} />
      ))}
      {there.map((d) => {
        const b = box(d.outline);
        return (
          <G key={d.tag}>
            <Rect {...b} fill={t.tray} stroke={t.graphite} strokeWidth={1.2} />
            {b.width > 30 ? (
              <Text x={b.x + b.width / 2} y={b.y + b.height / 2 + 4} {...label}>
                {d.tag}
              </Text>
            ) : null}
          </G>
        );
      })}
      {proposed.map((g, i) => {
        const part = parts.get(g.part);
        const b = box({ x: g.x, y: g.y, w: part?.w ?? 20, h: part?.h ?? 20 });
        const c = { x: b.x + b.width / 2, y: b.y + b.height / 2 };
        return (
          <G key={i}>
            <Circle
              cx={c.x}
              cy={c.y}
              r={b.width / 2}
              fill="none"
              stroke={t.verdigris}
              strokeWidth={2}
              strokeDasharray="4 3"
            />
            {g.cable !== null && b.width > 26 ? (
              <Text x={c.x} y={c.y + 4} {...label}>
                {g.cable}
              </Text>
            ) : null}
          </G>
        );
      })}
    </Svg>
  );
}
