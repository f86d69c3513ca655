import { facesOf, faceId, enclosureOf } from "@gray-bench/core/design/geometry";
import { DIRECTIONS, type Design, type Direction } from "@gray-bench/core/design/model";
import { onFace, seenFrom, turnsFor } from "@gray-bench/core/heat/airways";
import { openingsOf } from "@gray-bench/core/heat/openings";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { kindOf } from "@gray-bench/core/heat/kinds";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { Chips } from "../kit/Chips";
import { formatWatts, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { Empty, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { AirMap, type Opening } from "./AirMap";
import { outletAct } from "@gray-bench/core/heat/acts";
import { useField, type HeatAsker } from "./trials";

interface Props {
  job: string;
  zone: ZoneHeat;
  design: Design;
  panel: PanelResult;
  asker: HeatAsker | null;
  /** Unit whose outlet is looked at, and the deflector that is tried on it. */
  unit: string | undefined;
  turn: string | undefined;
  laid(outcome: Outcome): void;
  width: number;
  /** Height that is in sight. */
  most: number;
  /** What is said beside the map, not above it. */
  wide: boolean;
}

const MOST_DEAD = 12;

/** Where the air of units goes on each plate of a zone, what lies in dead air, and what a deflector would do. */
export function AirView(props: Props) {
  const { job, zone } = props;
  return (
    <View className="gap-3" testID="air">
      <Head>Where the air goes</Head>
      <Small>
        Potential flow in the free space before the plate, from outlets to inlets round the devices: a picture of its
        way, an estimate. Jets, swirls and the space between bodies and the door are not in it.
      </Small>
      {zone.airWays.length === 0 ? (
        zone.units.some((u) => u.kind !== "heater") ? (
          <Empty
            title="The air is not followed here"
            text="Its way is worked out before a plate: there is none where the units blow, or they state no flow."
          />
        ) : (
          <Empty title="No unit blows here" text="Mount a cooling unit, a fan or an exchanger: see Units." />
        )
      ) : null}
      {zone.before.length > 0 ? (
        <View className="gap-1 border-l-4 border-ochre pl-3" testID="before">
          <Body className="font-medium">Before openings</Body>
          {zone.before.map((b) => (
            <Small key={`${b.unit} ${b.opening} ${b.of}`}>
              <Link href={thingHref(job, b.thing, b.of)} className="text-harbour underline">
                {b.of}
              </Link>{" "}
              leaves {Math.round(b.leftMm)} of {b.freeMm} mm before the {b.opening} of {b.unit}
            </Small>
          ))}
        </View>
      ) : null}
      {zone.airWays.map((a) => (
        <Plate key={a.face} {...props} way={a} />
      ))}
    </View>
  );
}

const NO_TRIAL = {};

function Plate({
  job,
  zone,
  design,
  panel,
  asker,
  unit,
  turn,
  laid,
  width,
  most,
  wide,
  way,
}: Props & { way: ZoneHeat["airWays"][number] }) {
  const faces = useMemo(() => facesOf(design), [design]);
  const counted = useMemo(() => zone.devices.map((d): [string, number] => [d.device, d.countedW]), [zone]);
  const plate = faces.get(way.face);
  const enclosure = enclosureOf(way.face);
  const units = panel.devices.filter((d) => way.units.includes(d.tag));
  const one = units.find((u) => u.tag === unit) ?? units[0];
  const own = one && faces.get(one.face);
  const now: Direction | null = design.devices.find((d) => d.tag === one?.tag)?.deflector ?? null;
  const turns = own && plate ? turnsFor(own, plate) : [];
  const tried: Direction | null =
    turn === undefined || unit !== one?.tag ? now : (DIRECTIONS.find((d) => d === turn) ?? null);
  const trial = useMemo(
    () => (one === undefined || tried === now ? NO_TRIAL : { outlets: [{ device: one.tag, to: tried }] }),
    [one, tried, now],
  );
  const { got: field, failed, waiting } = useField(asker, `field ${way.face}`, enclosure, trial, counted);
  const openings = useMemo(
    () =>
      plate
        ? units.flatMap((d): Opening[] => {
            const part = design.parts.find((p) => p.number === d.part);
            const face = faces.get(d.face);
            if (!part || !face || kindOf(part) === null) return [];
            const { blows, draws } = openingsOf(part);
            return [
              { unit: d.tag, kind: "outlet", ...seenFrom(face, plate, onFace(d, blows), d.top) },
              { unit: d.tag, kind: "inlet", ...seenFrom(face, plate, onFace(d, draws), d.top) },
            ];
          })
        : [],
    [units, design, faces, plate],
  );
  if (!plate || !one) return null;
  const bodies = panel.devices
    .filter((d) => d.face === faceId(enclosure, "plate"))
    .map((d) => ({ tag: d.tag, ...d.outline }));
  const shown = field?.way ?? way;
  const href = (to: Direction | null) =>
    jobHref(job, "heat", { zone: zone.zone, show: "air", unit: one.tag, turn: to ?? "none" });
  const map = (
    <View>
      {failed ? (
        <Small testID="air-failed" className="text-brick">
          The air was not worked out: {failed}
        </Small>
      ) : field ? (
        <View style={{ opacity: waiting ? 0.6 : 1 }} aria-busy={waiting}>
          <AirMap
            field={field}
            face={plate}
            bodies={bodies}
            openings={openings}
            width={Math.min(width, (most * plate.w) / plate.h)}
          />
        </View>
      ) : (
        <Loading text="Following the air" />
      )}
    </View>
  );
  const said = (
    <View className="gap-2">
      <Body testID={`air-${way.face}`}>
        {Math.round(shown.reachedPercent)} % of the free {way.face} sees {way.speedMs} m/s or more from{" "}
        {keepTags(way.units.join(", "))}
        {shown.dead.length > 0
          ? `; in dead air ${shown.dead.length === 1 ? "lies" : "lie"} ${formatWatts(shown.dead.reduce((sum, d) => sum + d.countedW, 0))}`
          : "; nothing that loses heat lies in dead air"}
        .{tried === now ? "" : ` Without this change it is ${Math.round(way.reachedPercent)} %.`}
      </Body>
      {shown.hidden.length > 0 ? (
        <Small testID="air-hidden" className="text-ochre">
          Outlet and inlet of {keepTags(shown.hidden.join(", "))} lie one behind the other as the plate sees them: its
          air is not followed.
        </Small>
      ) : null}
      {units.length > 1 ? (
        <Chips
          wrap
          label="Units that blow here"
          shown={one.tag}
          chips={units.map((u) => ({
            name: u.tag,
            href: jobHref(job, "heat", { zone: zone.zone, show: "air", unit: u.tag }),
            testID: `blower-${u.tag}`,
          }))}
        />
      ) : null}
      <Small>Deflector on the outlet of {keepTags(one.tag)}, as seen from outside:</Small>
      <Chips
        wrap
        label={`Deflector on ${one.tag}`}
        shown={tried ?? "none"}
        chips={[null, ...turns].map((to) => ({
          name: to ?? "none",
          href: href(to),
          testID: `turn-${to ?? "none"}`,
        }))}
      />
      {tried === now ? null : (
        <Acts
          job={job}
          acts={[outletAct(one.tag, tried)]}
          label={`Outlet of ${one.tag}`}
          about={`${one.tag} ${tried ?? ""}`}
          laid={laid}
          testID="air"
        />
      )}
    </View>
  );
  const dead = (
    <View>
      {shown.dead.length > 0 ? (
        <View role="list" aria-label="In dead air" testID="dead">
          {shown.dead.slice(0, MOST_DEAD).map((d) => (
            <View
              key={d.device}
              role="listitem"
              className="min-h-touch flex-row items-center gap-3 border-b border-line"
            >
              <Link href={thingHref(job, "device", d.device)} className="w-22 py-3">
                <Mono className="text-harbour underline">{d.device}</Mono>
              </Link>
              <Mono>{formatWatts(d.countedW)}</Mono>
            </View>
          ))}
          {shown.dead.length > MOST_DEAD ? <Small>and {shown.dead.length - MOST_DEAD} more</Small> : null}
        </View>
      ) : null}
    </View>
  );
  return wide ? (
    <View className="flex-row items-start gap-6">
      <View className="w-100 gap-2">
        {said}
        {dead}
      </View>
      {map}
    </View>
  ) : (
    <View className="gap-2">
      {said}
      {map}
      {dead}
    </View>
  );
}
