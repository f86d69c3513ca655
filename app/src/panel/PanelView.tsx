import type { JobDetail } from "@gray-bench/contract/api";
import type { Colours } from "@gray-bench/core/design/landings";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { deviceAt } from "@gray-bench/core/panel/sheet";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { router } from "expo-router";
import { useCallback, useMemo } from "react";
import { ScrollView, View } from "react-native";
import { BottomSheet } from "../kit/BottomSheet";
import { Button } from "../kit/Button";
import { Drawing } from "../kit/drawing/Drawing";
import { Labels } from "./Labels";
import { Marked } from "../kit/drawing/Marked";
import { PanelLayer } from "./PanelLayer";
import { useSheet, type Layout } from "./useSheet";
import type { Box } from "../kit/drawing/useZoom";
import { Split } from "../kit/Split";
import { Empty } from "../kit/States";
import { Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { DeviceDetails } from "./DeviceDetails";
import { DeviceList } from "./DeviceList";

export interface PanelChoice {
  device?: string;
  /** A face, or `all`. */
  face?: string;
  enclosure?: string;
  rail?: string;
  part?: string;
  strip?: string;
}

interface Props {
  job: JobDetail;
  panel: PanelResult;
  routes: RoutesResult | undefined;
  choice: PanelChoice;
  /** Members of the chosen strip. */
  members: readonly string[];
  colours: Colours;
}

const PAD_MM = 120;

/** Every face to scale; a device tapped shows what it is and its wires. */
export function PanelView({ job, panel, routes, choice, members, colours }: Props) {
  const wide = useWide();
  const layout = useSheet(panel, job.hinges);
  const choose = useCallback(
    (device: string | undefined) =>
      router.setParams({
        device,
        part: undefined,
        rail: undefined,
        strip: undefined,
        face: undefined,
        enclosure: undefined,
      }),
    [],
  );
  const device = panel.devices.find((d) => d.tag === choice.device);
  const marked = useMemo<Box[]>(() => {
    const bars = panel.rails.filter((r) => r.tag === choice.rail).map((r) => ({ face: r.face, outline: r.outline }));
    const some = panel.devices.filter(
      (d) =>
        d.tag === choice.device || (choice.part !== undefined && d.part === choice.part) || members.includes(d.tag),
    );
    return [...some, ...bars].map(({ face, outline: o }) => layout.boxOf(face, o.x, o.y, o.w, o.h));
  }, [panel, layout, choice.device, choice.part, choice.rail, members]);
  const show = useMemo<Box | null>(() => {
    if (marked.length > 0) return around(marked, PAD_MM * 2);
    const wanted = choice.face ?? (choice.enclosure || wide ? undefined : firstPlate(layout));
    const faces = [...layout.faces.values()].filter((f) => f.id === wanted || f.enclosure === choice.enclosure);
    return faces.length > 0
      ? around(
          faces.map((f) => layout.boxOf(f.id, 0, 0, f.w, f.h)),
          PAD_MM / 2,
        )
      : null;
  }, [marked, layout, choice.face, choice.enclosure, wide]);
  useKeys({ Escape: () => choose(undefined) });

  const drawing = (
    <View className="min-h-0 flex-1">
      <Faces layout={layout} chosen={choice.face ?? (wide || choice.enclosure ? "all" : firstPlate(layout))} />
      <Drawing
        sheet={layout.box}
        show={show}
        label={`Faces of ${job.code} to scale`}
        tap={(x, y) => {
          const at = layout.under(x, y);
          choose(at ? deviceAt(panel.devices, at.face, at)?.tag : undefined);
        }}
        overlay={(view, visible, seen) => (
          <Labels panel={panel} layout={layout} view={view} visible={visible} seen={seen} />
        )}
      >
        <PanelLayer panel={panel} layout={layout} />
        <Marked boxes={marked} />
      </Drawing>
    </View>
  );
  const chosenOther = choice.part ?? choice.rail ?? choice.strip;
  const details = device ? (
    <DeviceDetails job={job.code} device={device} routes={routes} colours={colours} />
  ) : choice.device ? (
    <Empty
      title={`${choice.device} is not on the drawing`}
      text={
        panel.loose.includes(choice.device)
          ? "It is loose: the design gives it no place."
          : "It is not in this design, or left out by the chosen options."
      }
    />
  ) : chosenOther ? (
    <Empty
      title={chosenOther}
      text={marked.length > 0 ? `${marked.length} marked on the drawing` : "Nothing of it stands on the drawing."}
    />
  ) : null;

  if (wide) {
    return (
      <Split
        panes={[
          {
            key: "list",
            width: 260,
            label: "list",
            node: <DeviceList panel={panel} chosen={choice.device} choose={choose} />,
          },
          { key: "drawing", label: "drawing", node: drawing },
          ...(details
            ? [{ key: "details", width: 320, label: "details", node: <ScrollView>{details}</ScrollView> }]
            : []),
        ]}
      />
    );
  }
  return (
    <View className="min-h-0 flex-1">
      {drawing}
      {details ? (
        <BottomSheet
          testID="sheet"
          close={() => choose(undefined)}
          head={<SheetHead device={device?.tag ?? choice.device ?? chosenOther ?? ""} text={device?.text ?? ""} />}
        >
          {details}
        </BottomSheet>
      ) : null}
    </View>
  );
}

function SheetHead({ device, text }: { device: string; text: string }) {
  return (
    <View>
      <Mono className="font-monoStrong">{device}</Mono>
      <Small numberOfLines={1}>{text}</Small>
    </View>
  );
}

/** A button per face: brings it into view. */
function Faces({ layout, chosen }: { layout: ReturnType<typeof useSheet>; chosen: string | undefined }) {
  return (
    <View className="border-b border-line">
      <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="gap-2 p-2">
        <Button
          label="All"
          pressed={chosen === "all"}
          onPress={() =>
            router.setParams({
              face: "all",
              device: undefined,
              part: undefined,
              rail: undefined,
              strip: undefined,
              enclosure: undefined,
            })
          }
          testID="face-all"
        />
        {[...layout.faces.values()].map((f) => (
          <Button
            key={f.id}
            label={`${f.enclosure} ${f.kind}`}
            pressed={chosen === f.id}
            onPress={() =>
              router.setParams({
                face: f.id,
                device: undefined,
                part: undefined,
                rail: undefined,
                strip: undefined,
                enclosure: undefined,
              })
            }
            testID={`face-${f.id}`}
          />
        ))}
      </ScrollView>
    </View>
  );
}

/** What a phone shows first: all faces at once would be too small to touch. */
export const firstPlate = (layout: Layout): string | undefined =>
  [...layout.faces.values()].find((f) => f.kind === "plate")?.id;

export function around(boxes: readonly Box[], pad: number): Box {
  const x = Math.min(...boxes.map((b) => b.x)) - pad;
  const y = Math.min(...boxes.map((b) => b.y)) - pad;
  const right = Math.max(...boxes.map((b) => b.x + b.w)) + pad;
  const low = Math.max(...boxes.map((b) => b.y + b.h)) + pad;
  return { x, y, w: right - x, h: low - y };
}
