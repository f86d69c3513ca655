import type { Design, Place } from "@gray-bench/core/design/model";
import { lookUp } from "@gray-bench/core/design/lookup";
import { canDrag, holdBar, holdDevice, type Grip, type Hold } from "@gray-bench/core/panel/catching";
import { PANEL_EDITS } from "@gray-bench/core/panel/edits";
import type { WiresThen } from "@gray-bench/core/placing";
import type { Clash, PanelResult, PlacedBar, PlacedDevice } from "@gray-bench/core/panel/result";
import type { Rules } from "@gray-bench/core/shop/rules";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { View } from "react-native";
import { Path } from "react-native-svg";
import { Told } from "../edits/Told";
import { Marked } from "../kit/drawing/Marked";
import type { Dragger } from "../kit/drawing/props";
import { formatLength, keepTags } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { Failed } from "../kit/States";
import { Small } from "../kit/Text";
import { useEdit, type Outcome } from "../queries/useEdits";
import type { Layout } from "../sheet/useSheet";
import { wireWords } from "./wireWords";
import { askPlaces, type PlaceAsker } from "./placeAsker";

/** How near something is caught, and how wide an end is to a finger, px. */
const REACH_PX = 9;
const END_PX = 16;
const AROUND_PX = 8;

/** What is held, outside of React's state: only what draws it is drawn anew while it moves. */
class Held {
  #hold: Hold | null = null;
  /** It has been let go: where it was put is shown until the panel says so itself. */
  isPut = false;
  readonly #told = new Set<() => void>();
  readonly subscribe = (call: () => void): (() => void) => {
    this.#told.add(call);
    return () => this.#told.delete(call);
  };
  readonly get = (): Hold | null => this.#hold;
  put(): void {
    this.isPut = true;
    this.set(this.#hold && { ...this.#hold });
  }
  move(hold: Hold): void {
    this.isPut = false;
    this.set(hold);
  }
  set(hold: Hold | null): void {
    this.#hold = hold;
    for (const call of this.#told) call();
  }
}

const useHold = (held: Held): Hold | null => useSyncExternalStore(held.subscribe, held.get);

interface Draggable {
  job: string;
  design: Design | undefined;
  rules: Rules | undefined;
  panel: PanelResult;
  layout: Layout;
  device: PlacedDevice | undefined;
  bar: { thing: "rail" | "duct"; bar: PlacedBar } | null;
  /** A loose device that is brought to its place by hand. */
  placing: string | null;
  /** Hears what was let go. */
  dropped(of: string): void;
  /** The tag of what is chosen, on the drawing or loose; nothing is chosen when empty. */
  of: string;
}

type Taken = { tag: string; face: string; box: { x: number; y: number; w: number; h: number } } | { grip: Grip };

const sentenceOf = ({ kind, payload }: NonNullable<Hold["edit"]>): string =>
  PANEL_EDITS.find((k) => k.kind === kind)!.sentence(payload as never);

/** What is chosen is dragged: a press on it moves it, and one edit lays it where it is let go. */
export function useDrag({ job, design, rules, panel, layout, device, bar, placing, dropped, of }: Draggable) {
  const [held] = useState(() => new Held());
  const lay = useEdit(job);
  const [told, setTold] = useState<{ of: string; outcome: Outcome } | null>(null);
  const [taken] = useState<{ now: Taken | null }>(() => ({ now: null }));
  // Where it was put is shown until the panel says so itself.
  useEffect(() => held.set(null), [held, panel, of]);
  const drag = useMemo<Dragger | undefined>(() => {
    if (!design) return undefined;
    return {
      takes(x, y, k) {
        setTold(null);
        taken.now = placing
          ? looseAt(design, placing, layout, x, y)
          : (deviceAt(design, device, layout, x, y, k) ?? gripAt(bar, layout, x, y, k));
        return taken.now !== null;
      },
      move(dx, dy, k, free) {
        const reach = free ? 0 : REACH_PX / k;
        if (!taken.now) return;
        if ("grip" in taken.now)
          return held.move(holdBar(design, panel, bar!.thing, bar!.bar.tag, taken.now.grip, { x: dx, y: -dy }, reach));
        const { tag, face, box } = taken.now;
        const [cx, cy] = [box.x + dx + box.w / 2, box.y + dy + box.h / 2];
        const on = layout.under(cx, cy)?.face ?? face;
        const origin = layout.at(on, 0, 0);
        const raw = { x: cx - origin.x - box.w / 2, y: origin.y - cy - box.h / 2, w: box.w, h: box.h };
        held.move(holdDevice(design, panel, tag, on, raw, reach));
      },
      drop() {
        const hold = held.get();
        if (!hold?.edit || standsThere(hold, device, bar?.bar)) return held.set(null);
        held.put();
        dropped(of);
        lay.mutate([hold.edit], {
          onSuccess: (outcome) => setTold({ of, outcome }),
          onError: () => held.set(null),
        });
      },
      cancel: () => held.set(null),
    };
  }, [design, panel, layout, device, bar, placing, dropped, held, taken, lay, of]);
  return {
    drag,
    layer: <DragLayer held={held} layout={layout} />,
    said: (
      <DragSaid
        held={held}
        design={design}
        rules={rules}
        hint={placing ? `Press on the drawing and drag ${placing} to its place.` : ""}
        outcome={told?.of === of ? told.outcome : null}
        error={lay.error}
      />
    ),
  };
}

/** Whether a thing is let go where it stands: then nothing is laid. */
function standsThere(
  { edit, face, outline: o }: Hold,
  device: PlacedDevice | undefined,
  bar: PlacedBar | undefined,
): boolean {
  const now = device ?? bar;
  if (!now || edit?.kind === "insert" || now.face !== face) return false;
  const rail = (edit?.payload as { on?: Place }).on?.rail;
  if (device && (rail ?? null) !== device.carrier) return false;
  return (["x", "y", "w", "h"] as const).every((k) => Math.abs(now.outline[k] - o[k]) < SAME_MM);
}
const SAME_MM = 1e-3;

const isIn = (b: { x: number; y: number; w: number; h: number }, x: number, y: number, pad: number): boolean =>
  x >= b.x - pad && y >= b.y - pad && x <= b.x + b.w + pad && y <= b.y + b.h + pad;

function deviceAt(
  design: Design,
  device: PlacedDevice | undefined,
  layout: Layout,
  x: number,
  y: number,
  k: number,
): Taken | null {
  if (!device || !layout.faces.has(device.face) || !canDrag(design, device.tag)) return null;
  const { outline: o, face } = device;
  const box = layout.boxOf(face, o.x, o.y, o.w, o.h);
  return isIn(box, x, y, AROUND_PX / k) ? { tag: device.tag, face, box } : null;
}

/** A loose device comes under the finger with its middle. */
function looseAt(design: Design, tag: string, layout: Layout, x: number, y: number): Taken | null {
  const look = lookUp(design);
  const device = look.devices.get(tag);
  const part = device && look.parts.get(device.part);
  const face = layout.under(x, y)?.face;
  if (!part || face === undefined) return null;
  const across = device.turn === 90 || device.turn === 270;
  const [w, h] = across ? [part.h, part.w] : [part.w, part.h];
  return { tag, face, box: { x: x - w / 2, y: y - h / 2, w, h } };
}

/** All of a rail or duct, or the end that lies under the finger. */
function gripAt(bar: Draggable["bar"], layout: Layout, x: number, y: number, k: number): Taken | null {
  if (!bar || !layout.faces.has(bar.bar.face)) return null;
  const { outline: o, run, face } = bar.bar;
  const box = layout.boxOf(face, o.x, o.y, o.w, o.h);
  if (!isIn(box, x, y, AROUND_PX / k)) return null;
  const [at, long] = run === "up" ? [box.y + box.h - y, box.h] : [x - box.x, box.w];
  const near = Math.min(END_PX / k, long / 4);
  return { grip: at < near ? "start" : at > long - near ? "end" : "all" };
}

/** Where it would stand, what it caught, and what moves with it. */
function DragLayer({ held, layout }: { held: Held; layout: Layout }) {
  const t = useTokens();
  const hold = useHold(held);
  const face = hold && layout.faces.get(hold.face);
  if (!hold || !face) return null;
  const boxOf = (o: Hold["outline"]) => layout.boxOf(hold.face, o.x, o.y, o.w, o.h);
  const lines = hold.guides.map(({ axis, at }) => {
    const [a, b] = axis === "x" ? [layout.at(hold.face, at, 0), layout.at(hold.face, at, face.h)] : [layout.at(hold.face, 0, at), layout.at(hold.face, face.w, at)]; // prettier-ignore
    return `M${a.x} ${a.y}L${b.x} ${b.y}`;
  });
  const body = boxOf(hold.outline);
  return (
    <>
      {lines.length > 0 ? (
        <Path
          d={lines.join("")}
          stroke={t.harbour}
          strokeWidth={1.5}
          strokeDasharray="6 4"
          vectorEffect="non-scaling-stroke"
          fill="none"
        />
      ) : null}
      {hold.edit ? (
        <Marked boxes={[body, ...hold.others.map(boxOf)]} />
      ) : (
        <Path
          d={`M${body.x} ${body.y}h${body.w}v${body.h}h${-body.w}z`}
          stroke={t.brick}
          strokeWidth={3}
          strokeDasharray="8 6"
          vectorEffect="non-scaling-stroke"
          fill="none"
        />
      )}
    </>
  );
}

/** The tag of what an edit moves. */
function movedBy({ payload }: NonNullable<Hold["edit"]>): string {
  const { device, tag } = payload as { device?: string; tag?: string };
  return device ?? tag ?? "";
}

/** Behind what is told of the place before, while that of now is worked out. */
const MORE = " …";

/** What is known, and of which place. */
interface Worked {
  /** The thing that is moved. */
  of: string;
  clashes?: { key: string; list: Clash[] };
  wires?: { key: string; then: WiresThen };
}

/** What becomes of it where it is held, worked out beside the page, clashes first. The newest place counts. */
function useWorked(
  base: { design: Design; rules: Rules } | null,
  edit: Hold["edit"],
): Omit<Worked, "of"> & { key: string } {
  const asker = useRef<{ base: object; asker: PlaceAsker } | null>(null);
  const key = edit ? JSON.stringify(edit) : "";
  const [known, setKnown] = useState<Worked>({ of: "" });
  const of = edit ? movedBy(edit) : "";
  useEffect(() => {
    if (key === "" || !base) return;
    if (asker.current?.base !== base) {
      asker.current?.asker.close();
      asker.current = { base, asker: askPlaces(base) };
    }
    const asked = JSON.parse(key) as NonNullable<Hold["edit"]>;
    const { asker: worker } = asker.current;
    const moved = movedBy(asked);
    // What is known of another thing is not of this one.
    const know = (news: Partial<Worked>): void =>
      setKnown((was) => ({ ...(was.of === moved ? was : {}), ...news, of: moved }));
    worker.ask("clashes", { kind: "clashes", edit: asked, of: moved }, (a) => {
      if ("clashes" in a) know({ clashes: { key, list: a.clashes } });
    });
    worker.ask("wires", { kind: "wires", edit: asked }, (a) => {
      if ("wires" in a) know({ wires: { key, then: a.wires } });
    });
  }, [key, base]);
  useEffect(() => () => asker.current?.asker.close(), []);
  return { ...(key !== "" && known.of === of ? known : {}), key };
}

const MOST_SAID = 2;

function DragSaid({
  held,
  design,
  rules,
  hint,
  outcome,
  error,
}: {
  held: Held;
  design: Design | undefined;
  /** The shop's; without them nothing is worked out while it moves. */
  rules: Rules | undefined;
  hint: string;
  outcome: Outcome | null;
  error: unknown;
}) {
  const settings = useSettings();
  const hold = useHold(held);
  const base = useMemo(() => (design && rules ? { design, rules } : null), [design, rules]);
  const { clashes: met, wires, key } = useWorked(base, held.isPut ? null : (hold?.edit ?? null));
  const edit = hold?.edit;
  const clashes = met?.list ?? null;
  const clashWords =
    !edit || clashes === null
      ? ""
      : clashes.length === 0
        ? "nothing clashes"
        : `${clashes.slice(0, MOST_SAID).map((c) => `${c.kind}: ${c.a.of} and ${c.b.of}, ${formatLength(c.missingMm, settings)}`).join("; ")}${clashes.length > MOST_SAID ? ` and ${clashes.length - MOST_SAID} more` : ""}`; // prettier-ignore
  if ((!hold || held.isPut) && hint === "" && !outcome && !error) return null;
  return (
    <View className="absolute left-2 right-16 top-2 items-start" pointerEvents="none" testID="drag-said">
      <View className="border border-line bg-paper px-3 py-2">
        {hold && !held.isPut ? (
          <>
            <Small className={edit ? "text-graphite" : "text-brick"}>
              {keepTags(edit ? `Let go here: ${sentenceOf(edit)}` : `Not here: ${hold.reason}`)}
            </Small>
            {edit ? (
              <>
                <Small className={clashes && clashes.length > 0 ? "text-brick" : ""}>
                  {keepTags(`${clashWords}${met?.key === key ? "" : MORE}`)}
                </Small>
                <Small testID="drag-wire">
                  {keepTags(`${wires ? wireWords(wires.then, settings) : ""}${wires?.key === key ? "" : MORE}`)}
                </Small>
              </>
            ) : null}
          </>
        ) : error ? (
          <Failed error={error} />
        ) : hint ? (
          <Small>{keepTags(hint)}</Small>
        ) : (
          <Told outcome={outcome} testID="drag-told" />
        )}
      </View>
    </View>
  );
}
