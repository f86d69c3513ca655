import { explain } from "@gray-bench/core/metalwork/explain";
import type { BarList } from "@gray-bench/core/metalwork/result";
import { Link } from "expo-router";
import { useState } from "react";
import { ScrollView, useWindowDimensions, View } from "react-native";
import Svg, { G, Rect, Text } from "react-native-svg";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { jobPath } from "../kit/api";
import { FileLink } from "../kit/FileLink";
import { formatLength } from "../kit/format";
import { jobHref } from "../kit/links";
import { useSettings, useTokens } from "../kit/settings";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useTextScale } from "../kit/textScale";
import { FONTS, RULE_WIDTH } from "../kit/tokens";
import { useWide } from "../kit/useWide";
import { WorkingTable } from "../working/WorkingTable";
import { CutTogether, togetherHref, togetherOf, useTogether } from "./CutTogether";
import { mitreAct } from "@gray-bench/core/metalwork/acts";
import type { Props } from "./choice";

const listKey = ({ kind, part }: Pick<BarList, "kind" | "part">): string => `${kind} ${part}`;
const NAMES = { rail: "Rail", duct: "Duct", cover: "Cover" } as const;
const BAR_PX = 38;
const FILES = [
  ["cuts.pdf", "Bars, PDF", "pdf"],
  ["cut-labels.pdf", "Labels, PDF", "labels"],
  ["cuts.csv", "Table", "csv"],
] as const;

/** Rails, ducts and covers as they are cut from bars: to scale, fewest bars, and whether that is proved. */
export function Bars({ job, result, design, panel, rules, choice }: Props) {
  const settings = useSettings();
  const wide = useWide();
  const { width } = useWindowDimensions();
  const scale = useTextScale();
  const [told, setTold] = useState<Outcome | null>(null);
  const asked = togetherOf(job, choice);
  const together = useTogether(asked);
  const bars = asked === null ? result.bars : (together.data ?? []);
  if (result.bars.length === 0) return <Empty title="No rail and no duct" text="Nothing is cut for this job yet." />;
  const room = (wide ? Math.min(1100, width - RULE_WIDTH * scale - 60) : width - 24) - 2;
  const fresh = bars.reduce((n, b) => n + b.list.fresh, 0);
  const proved = bars.every((b) => b.list.fresh <= b.list.bound);
  return (
    <ScrollView className="flex-1" contentContainerClassName="gap-4 p-3" testID="bars">
      <View className="gap-1">
        <Head testID="bars-sum">
          {fresh} new bars, {proved ? "proved the fewest" : "not all proved the fewest"}
        </Head>
        <Small>
          A cut takes {formatLength(rules.kerfMm, settings)}; {formatLength(rules.trimMm, settings)} are trimmed off
          each end; rests from {formatLength(rules.keepMm, settings)} go back to the shelf.
        </Small>
        <View className="flex-row flex-wrap gap-2" role="group" aria-label="Files of bars">
          {FILES.map(([name, label, as]) => (
            <FileLink
              key={name}
              href={asked === null ? `/api${jobPath(job)}/files/${name}` : togetherHref(asked, as)}
              label={label}
              testID={`file-${name}`}
            />
          ))}
        </View>
        <CutTogether job={job} choice={choice} />
        {asked !== null && together.isPending ? <Loading text="Cutting them together" /> : null}
        {together.error ? <Failed error={together.error} retry={() => void together.refetch()} /> : null}
        <Told outcome={told} testID="bars-told" />
      </View>
      {bars.map((b) => {
        const open = choice.list === listKey(b);
        const why = open
          ? explain({ ...result, bars }, { of: "bars", kind: b.kind, part: b.part }, { design, rules, panel })
          : null;
        const longest = Math.max(b.stockMm, ...b.list.bars.map((x) => x.lengthMm));
        return (
          <View key={listKey(b)} className="gap-1" testID={`bars-${listKey(b)}`}>
            <Link
              href={jobHref(job, "metalwork", {
                page: "bars",
                ...(open ? {} : { list: listKey(b) }),
                ...(choice.with ? { with: choice.with } : {}),
                ...(choice.panels ? { panels: choice.panels } : {}),
              })}
              replace
              testID={`list-${listKey(b)}`}
              aria-current={open ? "true" : undefined}
              className="min-h-touch py-2"
            >
              <Body className="font-strong">
                {NAMES[b.kind]} {b.part}
              </Body>
              <Small>
                {" "}
                {b.list.bars.length} bars,{" "}
                {b.list.fresh <= b.list.bound ? "fewest, proved" : `no way needs fewer than ${b.list.bound}`}
              </Small>
            </Link>
            {b.list.bars.map((_, i) => (
              <BarPicture key={i} list={b} nth={i} k={room / longest} />
            ))}
            {open ? (
              <View className="gap-2 border-l-4 border-verdigris pl-3">
                {b.list.bars.flatMap((bar, n) =>
                  bar.pieces.map((p) => (
                    <View
                      key={`${n} ${p.of}`}
                      className="flex-row flex-wrap items-center gap-2 border-b border-line py-1"
                    >
                      <Mono className="w-16">{p.of}</Mono>
                      <Mono className="w-22">{formatLength(p.lengthMm, settings)}</Mono>
                      <Small className="min-w-0 flex-1">
                        bar {n + 1}; {(p.also ?? ["square"]).join("; ")}
                      </Small>
                      {b.kind === "cover" || asked !== null ? null : (
                        <Acts
                          job={job}
                          acts={[mitreAct(b.kind, p.of, design)]}
                          label={p.of}
                          about={p.of}
                          laid={setTold}
                          testID={`piece-${p.of}`}
                        />
                      )}
                    </View>
                  )),
                )}
                {why ? <WorkingTable working={why} job={job} /> : null}
              </View>
            ) : null}
          </View>
        );
      })}
    </ScrollView>
  );
}

function BarPicture({ list, nth, k }: { list: BarList; nth: number; k: number }) {
  const t = useTokens();
  const settings = useSettings();
  const bar = list.list.bars[nth]!;
  const { kerfMm, trimMm } = list.list;
  let x = trimMm * k;
  const words = `Bar ${nth + 1}, ${bar.lengthMm} mm${bar.kept ? ", from the shelf" : ""}: ${bar.pieces.map((p) => `${p.of} ${p.lengthMm} mm`).join(", ")}; rest ${Math.round(bar.restMm)} mm`;
  return (
    <View>
      <Svg width={bar.lengthMm * k + 2} height={BAR_PX} role="img" aria-label={words}>
        <Rect
          x={1}
          y={1}
          width={bar.lengthMm * k}
          height={BAR_PX - 2}
          fill={t.paper}
          stroke={t.slate}
          strokeWidth={1}
          strokeDasharray="4 3"
        />
        {bar.pieces.map((p) => {
          const w = p.lengthMm * k;
          const at = x;
          x += w + kerfMm * k;
          return (
            <G key={p.of}>
              <Rect x={at} y={1} width={w} height={BAR_PX - 2} fill={t.tray} stroke={t.graphite} strokeWidth={1.2} />
              {w > 40 ? (
                <Text x={at + w / 2} y={16} textAnchor="middle" fontFamily={FONTS.mono} fontSize={12} fill={t.graphite}>
                  {p.of}
                </Text>
              ) : null}
              {w > 52 ? (
                <Text x={at + w / 2} y={31} textAnchor="middle" fontFamily={FONTS.mono} fontSize={12} fill={t.graphite}>
                  {formatLength(p.lengthMm, settings)}
                </Text>
              ) : null}
            </G>
          );
        })}
      </Svg>
      <Small>
        rest {formatLength(bar.restMm, settings)}
        {bar.restMm >= list.list.keepMm ? ", goes to the shelf" : ""}
        {bar.kept ? "; from the shelf" : ""}
      </Small>
    </View>
  );
}
