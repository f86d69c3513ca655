import type { Colours } from "@gray-bench/core/wiring/landings";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { PlacedDevice } from "@gray-bench/core/panel/result";
import type { RoutesResult, WireRoute } from "@gray-bench/core/routes/result";
import { Link } from "expo-router";
import { useMemo } from "react";
import { Pressable, View } from "react-native";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import { choose } from "../kit/choice";
import { Sources } from "../library/Sources";
import { addWireAct } from "@gray-bench/core/routes/wire-acts";
import { formatLength } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { WireSwatch } from "../kit/WireSign";
import { deviceActs } from "@gray-bench/core/panel/device-acts";
import { Clashes } from "./Clashes";
import { Nudge, type Moved } from "./Nudge";
import { PinDetails } from "./PinDetails";

interface Props {
  job: string;
  device: PlacedDevice;
  routes: RoutesResult | undefined;
  colours: Colours;
  design: Design | undefined;
  /** The chosen pin. */
  pin: string | undefined;
  /** Of the whole panel. */
  clashes: readonly OpenPoint[];
  /** How far it is moved, not yet put there. */
  moved: Moved;
  move(moved: Moved): void;
}

const MOST_PINS = 60;

/** Tag, part, texts, place and wires of a device. */
export function DeviceDetails({ job, device, routes, colours, design, pin, clashes, moved, move }: Props) {
  const settings = useSettings();
  const at = (r: WireRoute["fromRef"]): boolean => r?.device === device.tag && (pin === undefined || r.pin === pin);
  const wires = routes?.wires.filter((w) => at(w.fromRef) || at(w.toRef)) ?? [];
  const o = device.outline;
  const acts = useMemo(
    () => (design ? [...deviceActs(design, device.tag), addWireAct(design, device.tag)] : []),
    [design, device.tag],
  );
  const strip = useMemo(() => design?.strips.find((s) => s.members.includes(device.tag)), [design, device.tag]);
  const part = useMemo(() => (design ? lookUp(design).parts.get(device.part) : undefined), [design, device.part]);
  return (
    <View testID="device-details" className="gap-2 p-3">
      <Head className="font-monoStrong">{device.tag}</Head>
      <Body>{device.text}</Body>
      {device.texts.map((t, i) => (
        <Body key={i}>{t}</Body>
      ))}
      {design && pin !== undefined ? (
        <PinDetails job={job} device={device.tag} name={pin} part={part} design={design} />
      ) : null}
      <Link href={thingHref(job, "part", device.part)} className="min-h-touch py-3">
        <Small>part </Small>
        <Mono className="text-harbour underline">{device.part}</Mono>
      </Link>
      <Sources job={job} part={part} />
      <Small>
        on {device.face}
        {device.carrier ? `, carried by ${device.carrier}` : ""}, lower left corner at {formatLength(o.x, settings)},{" "}
        {formatLength(o.y, settings)}
        {device.turn !== 0 ? `, turned ${device.turn}°` : ""}
      </Small>
      <Small>
        body {formatLength(device.w, settings)} wide, {formatLength(device.h, settings)} high, up to{" "}
        {formatLength(device.top, settings)} above the face
      </Small>
      {strip ? (
        <Link
          href={jobHref(job, "lineups", { strip: strip.tag, member: device.tag })}
          testID="device-strip"
          className="min-h-touch py-3"
        >
          <Small>{strip.at === undefined ? "member of strip " : "moved with its strip "}</Small>
          <Mono className="text-harbour underline">{strip.tag}</Mono>
        </Link>
      ) : null}
      <Clashes job={job} points={clashes} of={device.tag} />
      <Acts job={job} acts={acts} label="Change this device" about={device.tag} />
      {design ? <Nudge key={device.tag} job={job} tag={device.tag} design={design} moved={moved} move={move} /> : null}
      <OnPages job={job} kind="device" of={device.tag} />
      {part?.pins && part.pins.length > 0 ? (
        <View role="group" aria-label="Pins" className="flex-row flex-wrap gap-1">
          {part.pins.slice(0, MOST_PINS).map((p, i) => (
            <Pressable
              key={i}
              role="button"
              testID={`pin-${p.name}`}
              aria-label={`Pin ${p.name}`}
              aria-pressed={p.name === pin}
              onPress={() => choose({ pin: p.name === pin ? undefined : p.name })}
              className={`min-h-touch min-w-touch items-center justify-center border border-line px-2 ${p.name === pin ? "bg-verdigris" : "bg-paper"}`}
            >
              <Mono className={p.name === pin ? "text-onVerdigris" : ""}>{p.name}</Mono>
            </Pressable>
          ))}
        </View>
      ) : null}
      <Head>
        Wires{pin === undefined ? "" : ` at ${pin}`} ({wires.length})
      </Head>
      {wires.length === 0 ? <Empty title="No wires" text="Nothing is connected to it." /> : null}
      <View role="list">
        {wires.map((w) => (
          <View key={w.id} role="listitem">
            <Link href={jobHref(job, "routes", { wire: w.id })} className="block border-t border-line">
              <View className="min-h-glove w-full flex-row items-center gap-2">
                <WireSwatch colour={colours.get(w.id)?.value ?? null} />
                <Mono className="w-glove text-harbour underline">{w.id}</Mono>
                <Mono className="flex-1" numberOfLines={1}>
                  {ends(w, device.tag)}
                </Mono>
                <Mono>{w.lengthMm === null ? "no length" : formatLength(w.lengthMm, settings)}</Mono>
              </View>
            </Link>
          </View>
        ))}
      </View>
    </View>
  );
}

/** `A1 to -X2.3:b`: own pin first. */
function ends(w: WireRoute, tag: string): string {
  const [own, other] = w.fromRef?.device === tag ? [w.fromRef, w.toRef] : [w.toRef, w.fromRef];
  return `${own?.pin ?? "?"} to ${other ? `${other.device}:${other.pin}` : "?"}`;
}
