import type { JobDetail } from "@gray-bench/contract/jobs";
import type { Colours } from "@gray-bench/core/wiring/landings";
import { mapBy } from "@gray-bench/core/design/order";
import type { Design, Part } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { deviceAt } from "@gray-bench/core/panel/sheet";
import type { Rules } from "@gray-bench/core/shop/rules";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { lazy, memo, Suspense, useCallback, useEffect, useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Drawing } from "../kit/drawing/Drawing";
import { Marked } from "../kit/drawing/Marked";
import type { Box } from "../kit/drawing/useZoom";
import { Split } from "../kit/Split";
import { Empty, Loading } from "../kit/States";
import { Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { CrossingLayer, useCrossings } from "../sheet/CrossingLayer";
import { Arrange } from "../sheet/Arrange";
import { addBarActs } from "@gray-bench/core/panel/bar-acts";
import { BarDetails } from "./BarDetails";
import { barAt } from "./barAt";
import { deviceActs } from "@gray-bench/core/panel/device-acts";
import { Clashes, useClashPoints } from "./Clashes";
import { ClashLayer } from "./ClashLayer";
import { DeviceDetails } from "./DeviceDetails";
import { DeviceList } from "./DeviceList";
import type { SheetChoice } from "./LayoutSheets";
import { onSheet, PanelLayer } from "../sheet/PanelLayer";
import type { Moved } from "./Nudge";
import { Room } from "./Room";
import { pinAt, usePins } from "./PinLayer";
import { Tags } from "./Tags";
import { useDrag } from "./useDrag";
import { SignLayer } from "../sheet/SignLayer";
import { around, firstPlate, useLandmarks, useSheet, type LayChoice, type Layout } from "../sheet/useSheet";

export interface PanelChoice extends LayChoice, SheetChoice {
  device?: string;
  /** Of the device. */
  pin?: string;
  /** A face, or `all`. */
  face?: string;
  enclosure?: string;
  rail?: string;
  duct?: string;
  part?: string;
  strip?: string;
  /** What is seen of it: in depth, what clashes or what is left beside the drawing, or a sheet for the bench. */
  show?: string;
}

const Depth = lazy(() => import("./depth/Depth"));
const LayoutSheets = lazy(() => import("./LayoutSheets"));

interface Props {
  /** Its code. */
  job: string;
  hinges: JobDetail["hinges"];
  panel: PanelResult;
  routes: RoutesResult | undefined;
  /** Absent until it is there. */
  design: Design | undefined;
  choice: PanelChoice;
  colours: Colours;
  /** How far a door opens of which nothing is said. */
  opensDeg: number;
  /** What a door carries by the shop's rule. */
  doorMostKg: number;
  /** The shop's, once they are there. */
  rules: Rules | undefined;
}

const PAD_MM = 120;
/** Around a pin. */
const PIN_PAD_MM = 22;

const NOTHING = {
  device: undefined,
  pin: undefined,
  part: undefined,
  rail: undefined,
  duct: undefined,
  strip: undefined,
  face: undefined,
  enclosure: undefined,
};

/** What is seen of the panel, by the address. */
const ASPECTS = [
  [undefined, "Drawing"],
  ["depth", "In depth"],
  ["clashes", "Clashes"],
  ["room", "Room"],
  ["sheet", "Layout sheet"],
] as const;

const AT_REST = { tag: "", right: 0, up: 0 };
const NO_PARTS: ReadonlyMap<string, Part> = new Map();

/** Every face to scale; what is tapped shows what it is, its wires, and what can be done with it. */
export const PanelView = memo(function PanelView({
  job,
  hinges,
  panel: whole,
  routes,
  design,
  choice,
  colours,
  opensDeg,
  doorMostKg,
  rules,
}: Props) {
  const wide = useWide();
  const layout = useSheet(whole, hinges, choice);
  const crossings = useCrossings(routes, layout);
  const landmarks = useLandmarks(layout);
  const panel = useMemo(() => onSheet(whole, layout), [whole, layout]);
  // Drawn again only when the library is another one: an edit mostly leaves it alone.
  const library = design?.parts;
  const parts = useMemo(() => (library ? mapBy(library, (p) => p.number) : NO_PARTS), [library]);
  const members = useMemo(
    () => new Set(design?.strips.find((s) => s.tag === choice.strip)?.members),
    [design, choice.strip],
  );
  const pins = usePins(panel, parts);
  const [listed, setListed] = useState(false);
  const chooseDevice = useCallback((device: string | undefined) => {
    setListed(false);
    choose({ ...NOTHING, device });
  }, []);
  const device = whole.devices.find((d) => d.tag === choice.device);
  const [move, setMove] = useState<{ tag: string } & Moved>(AT_REST);
  const moved = move.tag === choice.device ? move : AT_REST;
  const bar = useMemo(() => barOf(whole, choice.rail, choice.duct), [whole, choice.rail, choice.duct]);
  const marked = useMemo<Box[]>(() => {
    const bars = [...panel.rails, ...panel.ducts].filter((b) => b.tag === (choice.rail ?? choice.duct));
    const some = panel.devices.filter(
      (d) => d.tag === choice.device || (choice.part !== undefined && d.part === choice.part) || members.has(d.tag),
    );
    return [...some, ...bars].map(({ face, outline: o }) => layout.boxOf(face, o.x, o.y, o.w, o.h));
  }, [panel, layout, choice.device, choice.part, choice.rail, choice.duct, members]);
  const first = wide || choice.faces ? undefined : firstPlate(layout);
  const [tapped, setTapped] = useState("");
  // What was just moved by hand stays where the eye is.
  const chosen = choice.device ?? choice.rail ?? choice.duct ?? "";
  const [moving, setMoving] = useState("");
  useEffect(() => setMoving(""), [chosen]);
  const show = useMemo<Box | null | undefined>(() => {
    // What was tapped is under the finger; only a sheet that then comes up would hide it.
    if (wide && tapped === `${choice.device} ${choice.pin}`) return undefined;
    if (chosen !== "" && moving === chosen) return undefined;
    const of = pins.find((p) => p.device.tag === choice.device);
    const pin = of?.pins.find((p) => p.name === choice.pin);
    if (pin) return around([layout.boxOf(of!.device.face, pin.x, pin.y, 0, 0)], PIN_PAD_MM);
    if (marked.length > 0) return around(marked, PAD_MM * 2);
    const wanted = choice.face ?? (choice.enclosure ? undefined : first);
    const faces = [...layout.faces.values()].filter((f) => f.id === wanted || f.enclosure === choice.enclosure);
    return faces.length > 0
      ? around(
          faces.map((f) => layout.boxOf(f.id, 0, 0, f.w, f.h)),
          PAD_MM / 2,
        )
      : null;
  }, [
    marked,
    layout,
    choice.face,
    choice.enclosure,
    choice.device,
    choice.pin,
    first,
    pins,
    tapped,
    wide,
    chosen,
    moving,
  ]);
  useKeys({ Escape: () => choose(NOTHING) });

  const [byHand, setByHand] = useState<string | null>(null);
  const placing = byHand !== null && byHand === choice.device && whole.loose.includes(byHand) ? byHand : null;
  const dropped = useCallback((of: string) => {
    setMoving(of);
    setByHand(null);
  }, []);
  const { drag, layer, said } = useDrag({
    job,
    design,
    rules,
    panel: whole,
    layout,
    device,
    bar,
    placing,
    dropped,
    of: chosen,
  });

  const tap = (x: number, y: number, k: number): void => {
    const at = layout.under(x, y);
    if (!at) return choose(NOTHING);
    const hit = deviceAt(panel.devices, at.face, at);
    if (hit) {
      const pin = pinAt(pins, hit.tag, at.x, at.y, k);
      setTapped(`${hit.tag} ${pin ?? undefined}`);
      return choose({ ...NOTHING, device: hit.tag, ...(pin === null ? {} : { pin }) });
    }
    const under = barAt(panel, at.face, at);
    choose({ ...NOTHING, ...(under ? { [under.thing]: under.tag } : {}) });
  };

  const drawing = (
    <View className="min-h-0 flex-1">
      <Faces
        layout={layout}
        chosen={choice.face ?? (wide || choice.enclosure ? "all" : (device?.face ?? first))}
        before={<Arrange panel={whole} {...choice} />}
      />
      <View className="min-h-0 flex-1">
        <Drawing
          sheet={layout.box}
          landmarks={landmarks}
          show={show}
          label={`Faces of ${job} to scale`}
          tap={tap}
          {...(drag ? { drag } : {})}
          overlay={(view, visible, seen) => (
            <>
              <SignLayer panel={panel} layout={layout} parts={parts} view={view} visible={visible} />
              <Tags
                panel={panel}
                layout={layout}
                pins={pins}
                crossings={crossings}
                view={view}
                visible={visible}
                seen={seen}
                chosen={choice.device && choice.pin ? { device: choice.device, pin: choice.pin } : null}
              />
              <CrossingLayer crossings={crossings} view={view} />
            </>
          )}
        >
          <PanelLayer panel={panel} layout={layout} />
          <ClashLayer clashes={panel.clashes} layout={layout} />
          <Marked boxes={marked} testID="chosen-mark" />
          {layer}
          {device && (moved.right !== 0 || moved.up !== 0) ? (
            <Marked
              boxes={[
                layout.boxOf(
                  device.face,
                  device.outline.x + moved.right,
                  device.outline.y + moved.up,
                  device.outline.w,
                  device.outline.h,
                ),
              ]}
            />
          ) : null}
        </Drawing>
        {said}
      </View>
    </View>
  );
  const points = useClashPoints(whole, design);
  const clashing = points.filter((p) => !p.accepted).length;
  // What is seen instead of the drawing.
  const instead =
    choice.show !== "depth" && choice.show !== "sheet" ? null : !design ? (
      <Loading text="The design" />
    ) : (
      <Suspense fallback={<Loading text={choice.show === "depth" ? "The view in depth" : "The layout sheet"} />}>
        {choice.show === "depth" ? (
          <Depth
            job={job}
            panel={whole}
            design={design}
            routes={routes}
            colours={colours}
            opensDeg={opensDeg}
            chosen={device ? { thing: "device", of: device.tag } : bar ? { thing: bar.thing, of: bar.bar.tag } : null}
            pick={(thing, of) => choose({ ...NOTHING, ...(thing ? { [thing]: of } : {}) })}
            isBrief={!wide && Boolean(device ?? bar)}
          />
        ) : (
          <LayoutSheets job={job} panel={whole} design={design} face={choice.face ?? device?.face} choice={choice} />
        )}
      </Suspense>
    );
  const other = choice.part ?? choice.rail ?? choice.duct ?? choice.strip;
  const details = device ? (
    <DeviceDetails
      job={job}
      device={device}
      routes={routes}
      colours={colours}
      design={design}
      pin={choice.pin}
      clashes={points}
      moved={moved}
      move={(to) => setMove({ tag: device.tag, ...to })}
    />
  ) : choice.device ? (
    <Absent
      job={job}
      tag={choice.device}
      loose={whole.loose.includes(choice.device)}
      design={design}
      placing={placing !== null}
      place={setByHand}
    />
  ) : bar && design ? (
    <BarDetails job={job} thing={bar.thing} bar={bar.bar} design={design} />
  ) : other ? (
    <Empty
      title={other}
      text={marked.length > 0 ? `${marked.length} marked on the drawing` : "Nothing of it stands on the drawing."}
    />
  ) : null;
  const clashes = <Clashes job={job} points={points} />;
  const room = design ? <Room panel={whole} design={design} doorMostKg={doorMostKg} /> : <Loading text="The design" />;
  // Beside the drawing when wide, instead of it on a phone.
  const beside = choice.show === "clashes" ? clashes : choice.show === "room" ? room : null;
  const list = (
    <DeviceList job={job} design={design} rules={rules} panel={whole} chosen={choice.device} choose={chooseDevice} />
  );
  const bars = useMemo(() => (design ? addBarActs(design, choice.face) : []), [design, choice.face]);
  const aspects = ASPECTS.map(([show, label]) => (
    <Button
      key={label}
      label={show === "clashes" ? `${label} (${clashing})` : label}
      pressed={!listed && choice.show === show}
      onPress={() => {
        setListed(false);
        choose({ show });
      }}
      testID={`as-${show ?? "drawing"}`}
    />
  ));

  if (wide) {
    return (
      <Split
        panes={[
          { key: "list", width: 340, label: "list", node: beside ?? list },
          {
            key: "drawing",
            label: "drawing",
            node: (
              <View className="min-h-0 flex-1">
                <View
                  className="flex-row flex-wrap gap-2 border-b border-line p-2"
                  role="group"
                  aria-label="What is shown"
                >
                  {aspects}
                  {instead || bars.length === 0 ? null : (
                    <Acts job={job} acts={bars} label="Change the faces" about="a rail or duct" testID="faces" />
                  )}
                </View>
                {instead ?? drawing}
              </View>
            ),
          },
          ...(details
            ? [{ key: "details", width: 320, label: "details", node: <ScrollView>{details}</ScrollView> }]
            : []),
        ]}
      />
    );
  }
  return (
    <View className="min-h-0 flex-1">
      <ScrollView
        horizontal
        showsHorizontalScrollIndicator={false}
        className="grow-0 border-b border-line"
        contentContainerClassName="gap-1 p-2"
        role="group"
        aria-label="What is shown"
      >
        <Button
          label={`Devices (${whole.devices.length + whole.loose.length})`}
          pressed={listed}
          onPress={() => setListed(true)}
          testID="as-list"
        />
        {aspects}
      </ScrollView>
      <WithSheet
        sheet={
          !listed && details ? (
            <BottomSheet
              testID="sheet"
              close={() => choose(NOTHING)}
              head={<SheetHead device={device?.tag ?? choice.device ?? other ?? ""} text={device?.text ?? ""} />}
            >
              {details}
            </BottomSheet>
          ) : null
        }
      >
        {listed ? list : (beside ?? instead ?? drawing)}
      </WithSheet>
    </View>
  );
});

function barOf(panel: PanelResult, rail: string | undefined, duct: string | undefined) {
  const [thing, tag] = rail === undefined ? (["duct", duct] as const) : (["rail", rail] as const);
  const bar = (thing === "rail" ? panel.rails : panel.ducts).find((b) => b.tag === tag);
  return bar ? { thing, bar } : null;
}

/** A device that is not on the drawing: why, and how it gets there. */
function Absent({
  job,
  tag,
  loose,
  design,
  placing,
  place,
}: {
  job: string;
  tag: string;
  loose: boolean;
  design: Design | undefined;
  /** It is being brought to its place by hand. */
  placing: boolean;
  place(tag: string | null): void;
}) {
  const acts = useMemo(() => (design ? deviceActs(design, tag) : []), [design, tag]);
  return (
    <View testID="device-absent">
      <Empty
        title={`${tag} is not on the drawing`}
        text={
          loose
            ? "It is loose: the design gives it no place."
            : "It is not in this design, or left out by the chosen options."
        }
      />
      <View className="gap-2 px-4">
        {loose && design ? (
          <Button
            kind={placing ? "plain" : "solid"}
            label={placing ? "Cancel" : "Place by hand"}
            onPress={() => place(placing ? null : tag)}
            testID="place-by-hand"
          />
        ) : null}
        <Acts job={job} acts={acts} label="Change this device" about={tag} />
        {loose ? <OnPages job={job} kind="device" of={tag} /> : null}
      </View>
    </View>
  );
}

function SheetHead({ device, text }: { device: string; text: string }) {
  return (
    <View>
      <Mono className="font-monoStrong">{device}</Mono>
      <Small numberOfLines={2}>{text}</Small>
    </View>
  );
}

/** A button per face: brings it into view. */
function Faces({ layout, chosen, before }: { layout: Layout; chosen: string | undefined; before: React.ReactNode }) {
  return (
    <View className="border-b border-line">
      <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="gap-2 p-2">
        {before}
        <Button
          label="All"
          pressed={chosen === "all"}
          onPress={() => choose({ ...NOTHING, face: "all" })}
          testID="face-all"
        />
        {[...layout.faces.values()].map((f) => (
          <Button
            key={f.id}
            label={`${f.enclosure} ${f.kind}`}
            pressed={chosen === f.id}
            onPress={() => choose({ ...NOTHING, face: f.id })}
            testID={`face-${f.id}`}
          />
        ))}
      </ScrollView>
    </View>
  );
}
