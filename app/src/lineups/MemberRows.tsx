import { pushTo } from "@gray-bench/core/design/order";
import { lanesOf } from "@gray-bench/core/lineups/lanes";
import { membersOf, type Connection, type Member, type StripPlan } from "@gray-bench/core/lineups/result";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { View } from "react-native";
import { WithDragging, type Dragging } from "../kit/Dragging";
import { keepTags } from "../kit/format";
import { Mono, Small } from "../kit/Text";
import { useTextScale } from "../kit/textScale";
import { WireSwatch } from "../kit/WireSign";
import { movedTo } from "@gray-bench/core/lineups/acts";

interface Props {
  strip: StripPlan;
  spareWord: string;
  chosen: string | undefined;
  /** Several chosen ones; null while one is chosen at a time. */
  many: ReadonlySet<string> | null;
  press(tag: string): void;
  /** The members in another order. */
  move(members: string[]): void;
}

const LANE_PX = 22;
const PAD_PX = 8;
const LEAST_PX = 52;
/** A line more in the middle. */
const FUSE_PX = 68;
const ACCESSORY_PX = 28;
const OVERSCAN = 8;
/** Held so long, a row is lifted. */
const HOLD_MS = 350;

type Item = StripPlan["items"][number];

const keyOf = (item: Item, i: number): string => (item.kind === "member" ? item.tag : `${item.kind} ${i}`);
const heightOf = (item: Item): number =>
  item.kind === "member"
    ? Math.max(item.fuseA === undefined ? LEAST_PX : FUSE_PX, lanesOf(item).length * LANE_PX + PAD_PX)
    : ACCESSORY_PX;

/**
 * The strip upright: a row for each member, inside to the left, outside to the right, level against level, jumpers as a
 * line beside. A row is held and dragged to another place, or moved with Alt and the arrow keys.
 */
export const MemberRows = (props: Props) => <WithDragging>{(dnd) => <Rows {...props} dnd={dnd} />}</WithDragging>;

function Rows({ strip, spareWord, chosen, many, press, move, dnd }: Props & { dnd: Dragging }) {
  const box = useRef<HTMLDivElement>(null);
  const { items } = strip;
  const scale = useTextScale();
  const order = useMemo(() => membersOf(strip).map((m) => m.tag), [strip]);
  const bridges = useMemo(() => bridgesOf(strip), [strip]);
  const grouped = useMemo(() => new Set(strip.groups.flat()), [strip]);
  const list = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => heightOf(items[i]!) * scale,
    overscan: OVERSCAN,
    getItemKey: (i) => keyOf(items[i]!, i),
  });
  useEffect(() => list.measure(), [items, scale, list]);
  const at = chosen === undefined ? -1 : items.findIndex((i) => i.kind === "member" && i.tag === chosen);
  useEffect(() => {
    if (at >= 0) list.scrollToIndex(at, { align: "auto" });
  }, [at, list]);
  const sensors = dnd.useSensors(
    dnd.useSensor(dnd.MouseSensor, { activationConstraint: { distance: 6 } }),
    dnd.useSensor(dnd.TouchSensor, { activationConstraint: { delay: HOLD_MS, tolerance: 8 } }),
  );
  const [lifted, setLifted] = useState<string | null>(null);
  const moving = (tag: string): ReadonlySet<string> => (many?.has(tag) ? many : new Set([tag]));
  const latest = useRef({ order, move });
  useEffect(() => {
    latest.current = { order, move };
  });
  const key = useCallback((e: KeyboardEvent, tag: string): void => {
    const by = e.altKey ? ({ ArrowUp: -1, ArrowDown: 1 } as Record<string, number>)[e.key] : undefined;
    if (by === undefined) return;
    e.preventDefault();
    const { order: now, move: lay } = latest.current;
    const from = now.indexOf(tag);
    const to = from + by;
    if (to >= 0 && to < now.length) lay(movedTo(now, new Set([tag]), by > 0 ? to + 1 : to));
  }, []);
  const drop = (active: string, over: string | undefined): void => {
    setLifted(null);
    if (over === undefined || over === active) return;
    const to = order.indexOf(over);
    const next = movedTo(order, moving(active), order.indexOf(active) < to ? to + 1 : to);
    if (next.some((t, i) => t !== order[i])) move(next);
  };
  return (
    <dnd.DndContext
      sensors={sensors}
      collisionDetection={dnd.closestCenter}
      onDragStart={({ active }) => setLifted(String(active.id))}
      onDragCancel={() => setLifted(null)}
      onDragEnd={({ active, over }) => drop(String(active.id), over ? String(over.id) : undefined)}
      accessibility={{ screenReaderInstructions: { draggable: "Moved with Alt and the arrow keys." } }}
    >
      <div
        ref={box}
        data-testid="member-list"
        role="region"
        aria-label={`Members of ${strip.tag}`}
        tabIndex={0}
        style={{ flex: 1, minHeight: 0, overflowY: "auto", contain: "strict" }}
      >
        <div role="list" data-testid="members" style={{ height: list.getTotalSize(), position: "relative" }}>
          {list.getVirtualItems().map(({ key: rowKey, index, start, size }) => {
            const item = items[index]!;
            return (
              <div
                key={rowKey}
                role="listitem"
                aria-setsize={items.length}
                aria-posinset={index + 1}
                style={{
                  position: "absolute",
                  top: 0,
                  left: 0,
                  right: 0,
                  height: size,
                  transform: `translateY(${start}px)`,
                }}
              >
                {item.kind === "member" ? (
                  <Row
                    member={item}
                    spareWord={spareWord}
                    bridges={bridges.get(item.tag) ?? NONE}
                    rows={bridges.rows}
                    together={grouped.has(item.tag)}
                    on={many ? many.has(item.tag) : item.tag === chosen}
                    ghost={lifted !== null && moving(lifted).has(item.tag)}
                    press={press}
                    keyed={key}
                    dnd={dnd}
                  />
                ) : (
                  <View className="h-full flex-row items-center justify-center border-b border-line bg-tray">
                    <Small numberOfLines={1}>
                      {item.kind} {item.part ?? ""} · {item.why}
                    </Small>
                  </View>
                )}
              </div>
            );
          })}
        </div>
      </div>
      <dnd.DragOverlay dropAnimation={null}>
        {lifted === null ? null : (
          <View className="min-h-touch justify-center rounded-edge border-2 border-verdigris bg-paper px-4">
            <Mono>{moving(lifted).size > 1 ? `${moving(lifted).size} members` : lifted}</Mono>
          </View>
        )}
      </dnd.DragOverlay>
    </dnd.DndContext>
  );
}

/** What lies at a member in a row of jumpers. */
interface Bridge {
  row: number;
  joined: boolean;
  first: boolean;
  last: boolean;
}

const NONE: readonly Bridge[] = [];

class Bridges extends Map<string, Bridge[]> {
  /** So many rows have jumpers. */
  rows = 0;
}

/** Jumpers by the members they join or pass over. O(members of all jumpers) */
function bridgesOf(strip: StripPlan): Bridges {
  const all = new Bridges();
  for (const { row, members, over } of strip.jumpers) {
    all.rows = Math.max(all.rows, row);
    const joined = new Set(members);
    for (const tag of [...members, ...over]) {
      const bridge = {
        row,
        joined: joined.has(tag),
        first: members[0] === tag,
        last: members[members.length - 1] === tag,
      };
      pushTo(all, tag, bridge);
    }
  }
  return all;
}

const SIGN = {
  "too many": "more than the clamp takes",
  "one of two": "which leads out?",
  "left open": "nothing leads on",
};

const Row = memo(function Row({
  member,
  spareWord,
  bridges,
  rows,
  together,
  on,
  ghost,
  press,
  keyed,
  dnd,
}: {
  member: Member;
  spareWord: string;
  bridges: readonly Bridge[];
  rows: number;
  together: boolean;
  on: boolean;
  ghost: boolean;
  press(tag: string): void;
  keyed(e: KeyboardEvent, tag: string): void;
  dnd: Dragging;
}) {
  const { tag } = member;
  const drag = dnd.useDraggable({ id: tag });
  const drop = dnd.useDroppable({ id: tag });
  const lanes = useMemo(() => lanesOf(member), [member]);
  const undecided = member.levels.flatMap((l) => l.undecided ?? [])[0];
  const free = lanes.every((l) => !l.inside && !l.outside);
  const over = drop.isOver && !drag.isDragging;
  return (
    <button
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...drag.listeners}
      type="button"
      data-testid={`member-${tag}`}
      aria-pressed={on}
      onClick={() => press(tag)}
      onKeyDown={(e) => keyed(e, tag)}
      className={`h-full w-full select-none border-0 p-0 text-left font-text ${on ? "bg-tray" : "bg-paper"} ${over ? "outline outline-2 outline-verdigris" : ""}`}
      style={{ display: "block", touchAction: "manipulation", opacity: ghost ? 0.4 : 1, cursor: "pointer" }}
    >
      <View
        className={`h-full flex-row items-stretch border-b border-line ${on ? "border-l-4 border-l-verdigris" : ""}`}
      >
        <Side lanes={lanes} side="inside" />
        <View className="w-23 items-center justify-center border-x border-line px-1 md:w-38">
          <Mono numberOfLines={1}>{member.print}</Mono>
          <Small numberOfLines={1}>{member.part ?? "no part"}</Small>
          {member.fuseA === undefined ? null : member.fuseA === null ? (
            <Small className="font-medium text-ochre">no fuse</Small>
          ) : (
            <Small>fuse {member.fuseA} A</Small>
          )}
          {undecided ? <Small className="font-medium text-ochre">? {SIGN[undecided]}</Small> : null}
          {together ? <View aria-hidden className="absolute bottom-0 left-0 top-0 w-1 bg-harbour" /> : null}
        </View>
        {Array.from({ length: rows }, (_, n) => {
          const b = bridges.find((x) => x.row === n + 1);
          return (
            <View key={n} aria-hidden className="w-3 items-center" {...(b ? { testID: `jumper-${tag}-${n + 1}` } : {})}>
              {b ? (
                <>
                  <View className={`w-1 flex-1 ${b.first ? "bg-transparent" : "bg-graphite"}`} />
                  <View
                    className={`h-2.5 w-2.5 rounded-full border-2 border-graphite ${b.joined ? "bg-graphite" : "bg-paper"}`}
                  />
                  <View className={`w-1 flex-1 ${b.last ? "bg-transparent" : "bg-graphite"}`} />
                </>
              ) : null}
            </View>
          );
        })}
        {free && spareWord ? (
          <View className="min-w-0 flex-1 justify-center px-1">
            <Small>{spareWord}</Small>
          </View>
        ) : (
          <Side lanes={lanes} side="outside" />
        )}
      </View>
    </button>
  );
});

type Lanes = ReturnType<typeof lanesOf>;

/** What lies on one side, a line each; a dotted line parts the levels. */
function Side({ lanes, side }: { lanes: Lanes; side: "inside" | "outside" }) {
  return (
    <View className="min-w-0 flex-1 justify-center px-1">
      {lanes.map((lane, i) => (
        <View
          key={i}
          className={`h-6 justify-center ${side === "inside" ? "items-end" : "items-start"} ${i > 0 && lanes[i - 1]!.level !== lane.level ? "border-t border-dotted border-line" : ""}`}
        >
          {lane[side] ? <Line of={lane[side]} inside={side === "inside"} /> : null}
        </View>
      ))}
    </View>
  );
}

const Line = ({ of: c, inside }: { of: Connection; inside: boolean }) => (
  <View className={`max-w-full items-center gap-1 ${inside ? "flex-row-reverse" : "flex-row"}`}>
    <WireSwatch colour={c.colour} />
    <Small numberOfLines={1} className="min-w-0 shrink text-graphite">
      {keepTags(c.cable === null ? `${c.wire} ${c.far ?? "?"}` : `${c.cable}.${c.core} ${c.far ?? "?"}`)}
    </Small>
  </View>
);
