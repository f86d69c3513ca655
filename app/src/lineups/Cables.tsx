import { coreRings } from "@gray-bench/core/lineups/section";
import type { CableRun, CoreEnd, CoreRun, StripPlan } from "@gray-bench/core/lineups/result";
import { Link } from "expo-router";
import { View } from "react-native";
import Svg, { Circle, Path, Text } from "react-native-svg";
import { Chips } from "../kit/Chips";
import { formatSize, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings, useTokens } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { FONTS, WIRE_COLOURS } from "../kit/tokens";
import { LinkLine } from "../kit/Button";

const endText = (e: CoreEnd): string => `${e.device}:${e.pin}`;

/** Cables that come to a strip; the chosen one in section with the ends of its cores. */
export function Cables({
  job,
  strip,
  cables,
  chosen,
}: {
  job: string;
  strip: StripPlan;
  cables: readonly CableRun[];
  chosen: string | undefined;
}) {
  const here = cables.filter((c) => c.cores.some((k) => k.from?.strip === strip.tag || k.to?.strip === strip.tag));
  if (here.length === 0) return <Empty title="No cable" text={`No core of a cable lands on ${strip.tag}.`} />;
  const shown = here.find((c) => c.tag === chosen) ?? here[0]!;
  return (
    <View className="gap-3 p-3" testID="cables">
      <Chips
        wrap
        label="Cables"
        shown={shown.tag}
        chips={here.map((c) => ({
          name: c.tag,
          href: jobHref(job, "lineups", { strip: strip.tag, show: "cables", cable: c.tag }),
          testID: `cable-${c.tag}`,
        }))}
      />
      <Cable key={shown.tag} job={job} cable={shown} strip={strip} />
    </View>
  );
}

const SECTION_PX = 200;

function Cable({ job, cable, strip }: { job: string; cable: CableRun; strip: StripPlan }) {
  const settings = useSettings();
  return (
    <View className="gap-2">
      <Head>
        {keepTags(`${cable.tag}, ${cable.type}`)}
        {cable.outerMm === null ? "" : `, ${cable.outerMm} mm thick`}
      </Head>
      <Small>
        {keepTags(`from ${cable.from ?? "?"} to ${cable.to ?? "?"}`)}, {cable.cores.length} cores led
      </Small>
      <View className="flex-row flex-wrap gap-3">
        <Section cable={cable} />
        <View role="list" className="min-w-60 flex-1">
          {cable.cores.map((core) => (
            <Core
              key={core.core}
              job={job}
              core={core}
              strip={strip.tag}
              size={core.sizeMm2 === null ? "" : formatSize(core.sizeMm2, settings)}
            />
          ))}
        </View>
      </View>
      <LinkLine href={thingHref(job, "cable", cable.tag)} label={`${cable.tag} in the intake`} />
    </View>
  );
}

/** Both ends of a core: on the strip, and far. */
function Core({ job, core, strip, size }: { job: string; core: CoreRun; strip: string; size: string }) {
  const ends = [core.from, core.to].flatMap((e) => (e ? [e] : []));
  const near = ends.find((e) => e.strip === strip) ?? ends[0];
  const far = ends.find((e) => e !== near);
  return (
    <View role="listitem" className="min-h-touch flex-row items-center gap-2 border-b border-line">
      <Mono className="w-13">{core.core}</Mono>
      <Small className="w-19">{[core.colour, size].filter(Boolean).join(" ") || "?"}</Small>
      <View className="min-w-0 flex-1">
        {near?.strip ? (
          <Link
            href={jobHref(job, "lineups", { strip: near.strip, member: near.device })}
            replace
            className="min-h-touch py-3"
          >
            <Body className="text-harbour underline">{keepTags(endText(near))}</Body>
          </Link>
        ) : (
          <Body>{near ? keepTags(endText(near)) : "nowhere"}</Body>
        )}
      </View>
      <Small numberOfLines={1} className="min-w-0 flex-1">
        {keepTags(far ? endText(far) : (core.far ?? "?"))}
      </Small>
    </View>
  );
}

/** The cable cut through: its cores in their colours, each with its name. */
function Section({ cable }: { cable: CableRun }) {
  const t = useTokens();
  const middle = SECTION_PX / 2;
  const radius = middle - 4;
  const rings = coreRings(cable.cores.length);
  return (
    <Svg
      width={SECTION_PX}
      height={SECTION_PX}
      role="img"
      aria-label={`Section of ${cable.tag}: ${cable.cores.map((c) => `${c.core} ${c.colour ?? "no colour"}`).join(", ")}`}
    >
      <Circle cx={middle} cy={middle} r={radius} fill={t.slate} stroke={t.graphite} strokeWidth={2} />
      <Circle cx={middle} cy={middle} r={radius * 0.9} fill={t.tray} />
      {rings.map(({ x, y, r }, i) => {
        const core = cable.cores[i]!;
        const inks = core.colour === null ? null : (WIRE_COLOURS[core.colour] ?? null);
        const [cx, cy, px] = [middle + x * radius, middle + y * radius, r * radius];
        // A plate of its own: a name is read on every colour.
        const font = Math.max(7, Math.min(12, px * 0.8));
        return [
          <Circle
            key={`c${core.core}`}
            cx={cx}
            cy={cy}
            r={px}
            fill={inks?.[0] ?? t.paper}
            stroke={t.graphite}
            strokeDasharray={inks ? undefined : "3 2"}
          />,
          inks?.[1] ? (
            <Path key={`s${core.core}`} d={`M${cx - px} ${cy}A${px} ${px} 0 0 0 ${cx + px} ${cy}Z`} fill={inks[1]} />
          ) : null,
          <Circle key={`p${core.core}`} cx={cx} cy={cy} r={px * 0.62} fill={t.paper} />,
          <Text
            key={`t${core.core}`}
            x={cx}
            y={cy + font * 0.36}
            fontSize={font}
            fontFamily={FONTS.mono}
            fill={t.graphite}
            textAnchor="middle"
          >
            {core.core.slice(0, 4)}
          </Text>,
        ];
      })}
    </Svg>
  );
}
