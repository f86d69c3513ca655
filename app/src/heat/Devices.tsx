import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import type { DeviceHeat, ZoneHeat } from "@gray-bench/core/heat/result";
import { Link } from "expo-router";
import { useState } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { choose } from "../kit/choice";
import { Choice } from "../kit/Choice";
import { formatTemperature, formatWatts, temperatureNumber } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { Empty } from "../kit/States";
import { Table } from "../kit/table/Table";
import type { TableColumn } from "../kit/table/column";
import { Body, Head, Mono, Small } from "../kit/Text";
import { Sources } from "../library/Sources";
import { loadAct } from "@gray-bench/core/heat/acts";

interface Props {
  job: string;
  zone: ZoneHeat;
  design: Design;
  chosen: string | undefined;
  laid(outcome: Outcome): void;
  wide: boolean;
}

type Trouble = "too hot" | "may carry less" | "in dead air" | "loss not stated" | "";

/** What is wrong with a device in its surroundings; the worst first. */
function troubleOf(d: DeviceHeat, dead: ReadonlySet<string>): Trouble {
  if (d.aroundC !== null && d.limitC !== null && d.aroundC > d.limitC) return "too hot";
  if (d.derated !== null && d.derated < d.share) return "may carry less";
  if (dead.has(d.device)) return "in dead air";
  return d.lossW === null ? "loss not stated" : "";
}

const RANK: Trouble[] = ["too hot", "may carry less", "in dead air", "loss not stated", ""];
const MOST_DEVICES = 60;

const deadOf = (zone: ZoneHeat): Set<string> => new Set(zone.airWays.flatMap((a) => a.dead.map((d) => d.device)));

/** Who puts in how much, and how warm it is around each. */
export function Devices(props: Props) {
  const { zone, wide } = props;
  if (zone.devices.length === 0)
    return <Empty title="No device loses heat here" text="Losses are stated with the parts of the library." />;
  return (
    <View className="gap-2" testID="heat-devices">
      <Head>Who puts it in</Head>
      <One {...props} />
      {wide ? <WideDevices {...props} /> : <DeviceList {...props} />}
    </View>
  );
}

/** The chosen device: its loss, its surroundings, what can be done. */
function One({ job, zone, design, chosen, laid }: Props) {
  const settings = useSettings();
  const d = zone.devices.find((x) => x.device === chosen);
  if (chosen === undefined) return null;
  if (!d) return <Small testID="heat-device">No device {chosen} loses heat in this zone.</Small>;
  const trouble = troubleOf(d, deadOf(zone));
  return (
    <View className="gap-1 border-l-4 border-verdigris pl-3" testID="heat-device">
      <Body className="font-medium">
        {d.device}, {d.part}
        {trouble ? `: ${trouble}` : ""}
      </Body>
      <Small>
        {d.lossW === null
          ? d.fallback
            ? "The median of like parts"
            : "Its loss is not stated, counted as none:"
          : formatWatts(d.lossW)}{" "}
        × load {d.share} × diversity {d.diversity} = {formatWatts(d.countedW)}
        {d.hotWDm2 === null ? "" : `; up to ${d.hotWDm2.toFixed(1)} W/dm² on its face`}
      </Small>
      <Sources job={job} part={lookUp(design).parts.get(d.part)} fields={["lossW"]} testID="loss-source" />
      <Small>
        {d.aroundC === null
          ? "It has no place, so nothing is known of its surroundings."
          : `The air along it reaches ${formatTemperature(d.aroundC, settings)} by the model of slabs`}
        {d.limitC === null ? "" : `; it bears ${formatTemperature(d.limitC, settings)}`}
        {d.derated === null ? "" : `; it may carry ${Math.round(d.derated * 100)} % of its rating there`}
      </Small>
      <View className="flex-row flex-wrap items-center gap-3">
        <Acts job={job} acts={[loadAct([d])]} label={d.device} about={d.device} laid={laid} testID="device" />
        <Link
          href={thingHref(job, "device", d.device)}
          testID="device-in-panel"
          className="min-h-touch py-3 text-body text-harbour underline"
        >
          Move it in the panel
        </Link>
      </View>
    </View>
  );
}

function DeviceList({ job, zone, chosen }: Props) {
  const settings = useSettings();
  const [order, setOrder] = useState<"loss" | "trouble">("loss");
  const dead = deadOf(zone);
  const rank = (d: DeviceHeat): number => RANK.indexOf(troubleOf(d, dead));
  const rows = order === "loss" ? zone.devices : [...zone.devices].sort((a, b) => rank(a) - rank(b));
  return (
    <View className="gap-1">
      <Choice<"loss" | "trouble">
        label="In order of"
        value={order}
        options={[
          ["loss", "loss"],
          ["trouble", "trouble"],
        ]}
        choose={setOrder}
        testID="device-order"
      />
      <View role="list">
        {rows.slice(0, MOST_DEVICES).map((d) => {
          const trouble = troubleOf(d, dead);
          return (
            <View
              key={d.device}
              role="listitem"
              testID={`heat-row-${d.device}`}
              className={`min-h-touch flex-row items-center gap-3 border-b border-line ${d.device === chosen ? "bg-tray" : ""}`}
            >
              <Link
                href={jobHref(job, "heat", { zone: zone.zone, show: "devices", device: d.device })}
                replace
                testID={`heat-choose-${d.device}`}
                aria-current={d.device === chosen ? "true" : undefined}
                className="w-20 py-3"
              >
                <Mono className="text-harbour underline">{d.device}</Mono>
              </Link>
              <Mono className="w-17 text-right">{d.lossW === null && !d.fallback ? "?" : formatWatts(d.countedW)}</Mono>
              <Small className={`flex-1 ${trouble ? "font-medium text-brick" : ""}`}>
                {d.aroundC === null ? "no place" : formatTemperature(d.aroundC, settings)}
                {trouble ? `, ${trouble}` : ""}
              </Small>
            </View>
          );
        })}
      </View>
      {zone.devices.length > MOST_DEVICES ? (
        <Small>and {zone.devices.length - MOST_DEVICES} more, in heat-devices.csv</Small>
      ) : null}
    </View>
  );
}

const TABLE_PX = 420;

function WideDevices({ job, zone, chosen, laid }: Props) {
  const scale = useTextScale();
  const settings = useSettings();
  const dead = deadOf(zone);
  const degrees = (c: number | null): number | null =>
    c === null ? null : Math.round(temperatureNumber(c, settings) * 10) / 10;
  const columns: TableColumn<DeviceHeat>[] = [
    { id: "device", label: "Device", width: 84, value: (d) => d.device },
    { id: "part", label: "Part", width: 100, value: (d) => d.part },
    { id: "loss", label: "Loss, W", width: 72, value: (d) => d.lossW },
    { id: "share", label: "Load", width: 58, value: (d) => d.share },
    { id: "diversity", label: "Diversity", width: 70, value: (d) => d.diversity },
    { id: "counted", label: "Counted, W", width: 84, value: (d) => Math.round(d.countedW * 10) / 10 },
    { id: "around", label: `Air, °${settings.temperature}`, width: 70, value: (d) => degrees(d.aroundC) },
    { id: "limit", label: `Bears, °${settings.temperature}`, width: 76, value: (d) => degrees(d.limitC) },
    { id: "trouble", label: "Trouble", width: 120, value: (d) => troubleOf(d, dead) },
    {
      id: "hot",
      label: "W/dm²",
      width: 66,
      value: (d) => (d.hotWDm2 === null ? null : Math.round(d.hotWDm2 * 10) / 10),
      hidden: true,
    },
    {
      id: "derated",
      label: "May carry, %",
      width: 90,
      value: (d) => (d.derated === null ? null : Math.round(d.derated * 100)),
      hidden: true,
    },
  ];
  return (
    <View style={{ height: TABLE_PX * scale }}>
      <Table
        id="heat-devices"
        label={`Devices of zone ${zone.zone}`}
        testID="heat-table"
        rowTestID={(key) => `heat-row-${key}`}
        rows={zone.devices}
        columns={columns}
        keyOf={(d) => d.device}
        chosen={chosen}
        choose={(device) => choose({ device })}
        bar={(keys) => (
          <Acts
            job={job}
            acts={[loadAct(zone.devices.filter((d) => keys.includes(d.device)))]}
            label="Chosen devices"
            about={keys.join()}
            laid={laid}
            testID="many"
          />
        )}
      />
    </View>
  );
}
