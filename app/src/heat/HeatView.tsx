import type { Design } from "@gray-bench/core/design/model";
import type { HeatResult, ZoneHeat } from "@gray-bench/core/heat/result";
import type { TrialBase } from "@gray-bench/core/heat/trial";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useMemo, useState, type ReactNode } from "react";
import { ScrollView, useWindowDimensions, View } from "react-native";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { Chips } from "../kit/Chips";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { Tabs } from "../kit/Tabs";
import { useTextScale } from "../kit/textScale";
import { RULE_WIDTH } from "../kit/tokens";
import { useWide } from "../kit/useWide";
import { AirView } from "./AirView";
import { Devices } from "./Devices";
import { Figures, Top } from "./Figures";
import { Maps } from "./Maps";
import { useAsker, useTried, type HeatAsker } from "./trials";
import { trialOf, triesAnything, TRY_KEYS, type TryParams } from "./tryParams";
import { Chosen, shownUnit, Units } from "./Units";
import { WhatIf } from "./WhatIf";

export interface HeatChoice extends TryParams {
  zone?: string;
  figure?: string;
  show?: string;
  unit?: string;
  device?: string;
  turn?: string;
}

interface Props {
  job: string;
  result: HeatResult;
  design: Design;
  panel: PanelResult;
  choice: HeatChoice;
}

/** The balance of each zone: one figure on top, gains and losses, where it gets hot, and the units that do it. */
export function HeatView(props: Props) {
  const { job, result, choice } = props;
  const { zones } = result;
  const shown =
    choice.zone === undefined
      ? zones[0]
      : zones.find((z) => z.zone === choice.zone || z.enclosures.includes(choice.zone!));
  if (zones.length === 0) return <Empty title="No zone" text="The design has no enclosure." />;
  const keep: Record<string, string> = choice.show ? { show: choice.show } : {};
  return (
    <View className="min-h-0 flex-1">
      <Chips
        label="Zones"
        shown={shown?.zone}
        chips={zones.map((z) => ({
          name: z.zone,
          href: jobHref(job, "heat", { zone: z.zone, ...keep }),
          testID: `zone-${z.zone}`,
        }))}
      />
      {shown ? (
        <OneZone key={shown.zone} {...props} zone={shown} />
      ) : (
        <Empty
          title={`${choice.zone} is not here`}
          text="There is no zone of that name in this revision. Choose one above."
        />
      )}
    </View>
  );
}

const TABS = [
  ["balance", "Balance"],
  ["units", "Units"],
  ["air", "Air"],
  ["devices", "Devices"],
  ["try", "What if"],
] as const;
type Tab = (typeof TABS)[number][0];

/** Room of what is drawn: on a wide screen the right side is for the maps. */
const MAPS_PX = 500;
const PAD_PX = 24;
/** What stands above and below a map on a wide screen. */
const AROUND_MAP_PX = 300;
const LEAST_MAP_PX = 320;
/** A map of the air has lines to be followed: so much higher. */
const AIR_MORE_PX = 110;
const MOST_PX = { left: 640, drawn: 520 };

function OneZone({ job, zone, result, design, panel, choice }: Props & { zone: ZoneHeat }) {
  const wide = useWide();
  const { width, height } = useWindowDimensions();
  const scale = useTextScale();
  const [told, setTold] = useState<Outcome | null>(null);
  const tab: Tab = TABS.find(([t]) => t === choice.show)?.[0] ?? "balance";
  const base = useMemo<TrialBase>(() => ({ design, panel, heat: result }), [design, panel, result]);
  const room = wide ? Math.min(MOST_PX.left, width - MAPS_PX - RULE_WIDTH * scale - 2 * PAD_PX) : width - PAD_PX;
  const drawn = Math.min(room, MOST_PX.drawn);
  const most = wide ? Math.max(LEAST_MAP_PX, height - AROUND_MAP_PX) : Infinity;
  const common = { job, zone, design, laid: setTold };
  const maps = (z: ZoneHeat) => (
    <Maps zone={z} design={design} panel={panel} width={wide ? MAPS_PX - 34 : room} most={most} />
  );
  const unit = shownUnit(zone, choice.unit);
  const frame = (left: ReactNode, z: ZoneHeat | null = zone, above: ReactNode = null) => (
    <Frame
      wide={wide}
      tabs={
        <Tabs
          label="Parts of the balance"
          now={tab}
          tabs={TABS.map(([id, title]) => ({
            id,
            title,
            href: jobHref(job, "heat", { zone: zone.zone, ...(id === "balance" ? {} : { show: id }) }),
          }))}
        />
      }
      head={
        <>
          {tab === "try" ? null : <Top zone={zone} width={drawn} short={tab !== "balance"} />}
          <Told outcome={told} testID="heat-told" />
        </>
      }
      left={left}
      maps={
        z && (wide || tab === "balance") ? (
          <View className="gap-4">
            {above}
            {maps(z)}
          </View>
        ) : null
      }
    />
  );
  switch (tab) {
    case "balance":
      return frame(<Figures {...common} result={result} figure={choice.figure} />);
    case "units":
      return frame(
        <Units {...common} chosen={choice.unit} width={room} wide={wide} />,
        zone,
        wide && unit !== undefined ? <Chosen zone={zone} design={design} name={unit} width={MAPS_PX - 34} /> : null,
      );
    case "devices":
      return frame(<Devices {...common} chosen={choice.device} wide={wide} />);
    case "air":
      return (
        <Asking base={base}>
          {(asker) =>
            frame(
              <AirView
                {...common}
                panel={panel}
                asker={asker}
                unit={choice.unit}
                turn={choice.turn}
                width={wide ? MOST_PX.drawn : drawn}
                most={wide ? most + AIR_MORE_PX : most}
                wide={wide}
              />,
              null,
            )
          }
        </Asking>
      );
    case "try":
      return (
        <Trying base={base} zone={zone} choice={choice}>
          {(params, slide, reply) =>
            frame(
              <WhatIf {...common} params={params} slide={slide} reply={reply} />,
              (triesAnything(params) ? reply.got?.zone : zone) ?? zone,
            )
          }
        </Trying>
      );
  }
}

/** Wide: what is said left, the maps right. Phone: one below the other. */
function Frame({
  wide,
  tabs,
  head,
  left,
  maps,
}: {
  wide: boolean;
  tabs: ReactNode;
  head: ReactNode;
  left: ReactNode;
  maps: ReactNode;
}) {
  return (
    <View className="min-h-0 flex-1">
      {tabs}
      {wide ? (
        <View className="min-h-0 flex-1 flex-row">
          <ScrollView className="flex-1" contentContainerClassName="gap-4 p-4">
            {head}
            {left}
          </ScrollView>
          {maps ? (
            <ScrollView
              role="region"
              aria-label="Maps"
              // Scrolled by the keyboard too: nothing in it takes the focus.
              {...({ tabIndex: 0 } as object)}
              className="grow-0 border-l border-line"
              style={{ width: MAPS_PX }}
              contentContainerClassName="p-4"
            >
              {maps}
            </ScrollView>
          ) : null}
        </View>
      ) : (
        <ScrollView className="flex-1" contentContainerClassName="gap-4 p-3">
          {head}
          {maps}
          {left}
        </ScrollView>
      )}
    </View>
  );
}

/** A worker as long as this is shown. */
function Asking({ base, children }: { base: TrialBase; children: (asker: HeatAsker | null) => ReactNode }) {
  return <>{children(useAsker(base))}</>;
}

type Slid = (part: TryParams) => void;

/** What is tried: of the address, and of the thumb that moves. */
function Trying({
  base,
  zone,
  choice,
  children,
}: {
  base: TrialBase;
  zone: ZoneHeat;
  choice: HeatChoice;
  children: (params: TryParams, slide: Slid, reply: ReturnType<typeof useTried>) => ReactNode;
}) {
  const asker = useAsker(base);
  const stands = JSON.stringify(
    Object.fromEntries(TRY_KEYS.flatMap((k) => (choice[k] === undefined ? [] : [[k, choice[k]]]))),
  );
  // What the thumb moved counts until the address says it; null: as where nothing is tried.
  const [moved, setMoved] = useState<{ on: string; part: Moved }>({ on: stands, part: {} });
  if (moved.on !== stands) setMoved({ on: stands, part: notYet(moved.part, JSON.parse(stands) as TryParams) });
  const part = JSON.stringify(moved.part);
  const params = useMemo(() => {
    const now = { ...(JSON.parse(stands) as TryParams), ...(JSON.parse(part) as Moved) };
    return Object.fromEntries(Object.entries(now).filter(([, v]) => v !== null)) as TryParams;
  }, [stands, part]);
  const trial = useMemo(() => (triesAnything(params) ? trialOf(params, zone) : null), [params, zone]);
  const reply = useTried(asker, zone.zone, trial);
  const slide: Slid = (next) =>
    setMoved(({ on, part }) => ({
      on,
      part: {
        ...part,
        ...Object.fromEntries(Object.entries(next).map(([k, v]) => [k, (v as string | undefined) ?? null])),
      },
    }));
  return <>{children(params, slide, reply)}</>;
}

type Moved = { [K in keyof TryParams]: string | null };

/** What the thumb moved and the address does not say yet. */
const notYet = (part: Moved, said: TryParams): Moved =>
  Object.fromEntries(Object.entries(part).filter(([k, v]) => v !== (said[k as keyof TryParams] ?? null)));
