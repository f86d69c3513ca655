import type { Jumper, Member, StripPlan } from "@gray-bench/core/lineups/result";
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import Svg, { Circle, G, Line, Rect, Text } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { FONTS } from "../kit/tokens";
import { movedTo } from "@gray-bench/core/lineups/acts";

/** Pixels of a millimetre: at least so many that a terminal of 5.2 mm can be hit with a finger, more where there is room. */
const SCALE = { least: 5, most: 10 };
/** What a piece takes whose part states no width: it is drawn with a broken line. */
const GUESSED_MM = 5;
/** Left and right of the strip. */
const SIDE_PX = 4;
const HEIGHT = 168;
const BODY = { top: 48, height: 96 };
/** Farther than this, a press is no tap any more. */
const TAP_PX = 5;
/** So near to an edge, what is dragged scrolls the strip. */
const EDGE_PX = 40;
const SCROLL_PX = 12;

interface Drawn {
  tag: string;
  x: number;
  w: number;
}

interface Props {
  strip: StripPlan;
  chosen: string | undefined;
  many: readonly string[];
  choose: (tag: string | undefined) => void;
  /** One more, or one less, of several: a click with Ctrl, Shift or ⌘. */
  toggle(tag: string): void;
  move(members: string[]): void;
}

/**
 * The strip to scale along its rail: bodies with what their markers show, levels, jumpers, fuses, end stops, plates and
 * separators. A member is dragged to another place; nothing is drawn anew while it moves.
 */
export function StripDrawing({ strip, chosen, many, choose, toggle, move }: Props) {
  const t = useTokens();
  const scroller = useRef<HTMLDivElement>(null);
  const ghost = useRef<HTMLDivElement>(null);
  const mark = useRef<HTMLDivElement>(null);
  const drag = useRef<{ from: Drawn; x: number; moved: boolean; place: number } | null>(null);
  const [room, setRoom] = useState(0);
  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    setRoom(box.clientWidth);
    const grows = new ResizeObserver(() => setRoom(box.clientWidth));
    grows.observe(box);
    return () => grows.disconnect();
  }, []);
  const { pieces, members, width } = useMemo(() => layOut(strip, room), [strip, room]);
  const at = members.find((m) => m.tag === chosen);
  useEffect(() => {
    const box = scroller.current;
    if (!box || !at) return;
    if (at.x < box.scrollLeft || at.x + at.w > box.scrollLeft + box.clientWidth)
      box.scrollLeft = at.x - box.clientWidth / 2;
  }, [at]);
  /** Where in the drawing a pointer is. */
  const xOf = (clientX: number): number => {
    const box = scroller.current!;
    return clientX - box.getBoundingClientRect().left + box.scrollLeft;
  };
  const under = (x: number): Drawn | undefined => members.find((m) => x >= m.x && x < m.x + m.w);
  /** Before which member something that is let go there comes. */
  const placeAt = (x: number): number => {
    const i = members.findIndex((m) => x < m.x + m.w / 2);
    return i < 0 ? members.length : i;
  };
  const show = (moved: boolean): void => {
    for (const node of [ghost.current, mark.current]) if (node) node.style.display = moved ? "block" : "none";
  };
  const end = (clientX: number | null, more = false): void => {
    const d = drag.current;
    drag.current = null;
    show(false);
    if (!d || clientX === null) return;
    if (!d.moved) return more ? toggle(d.from.tag) : choose(d.from.tag === chosen ? undefined : d.from.tag);
    const order = members.map((m) => m.tag);
    const moving = new Set(many.includes(d.from.tag) ? many : [d.from.tag]);
    const next = movedTo(order, moving, d.place);
    if (next.some((tag, i) => tag !== order[i])) move(next);
  };
  return (
    <div
      ref={scroller}
      data-testid="strip-drawing"
      style={{
        overflowX: "auto",
        overflowY: "hidden",
        position: "relative",
        height: HEIGHT + 14,
        flexShrink: 0,
        cursor: "grab",
      }}
      onPointerDown={(e) => {
        const from = under(xOf(e.clientX));
        if (!from || e.button !== 0) return;
        drag.current = { from, x: e.clientX, moved: false, place: 0 };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        if (!d.moved && Math.abs(e.clientX - d.x) < TAP_PX) return;
        if (!d.moved) {
          d.moved = true;
          ghost.current!.style.width = `${d.from.w}px`;
          ghost.current!.textContent = many.includes(d.from.tag) && many.length > 1 ? String(many.length) : "";
          show(true);
        }
        const box = e.currentTarget;
        const { left, right } = box.getBoundingClientRect();
        if (e.clientX > right - EDGE_PX) box.scrollLeft += SCROLL_PX;
        else if (e.clientX < left + EDGE_PX) box.scrollLeft -= SCROLL_PX;
        const x = xOf(e.clientX);
        d.place = placeAt(x);
        const place = members[d.place];
        const last = members[members.length - 1]!;
        ghost.current!.style.transform = `translateX(${x - d.from.w / 2}px)`;
        mark.current!.style.transform = `translateX(${(place ? place.x : last.x + last.w) - 2}px)`;
      }}
      onPointerUp={(e) => end(e.clientX, e.ctrlKey || e.shiftKey || e.metaKey)}
      onPointerCancel={() => end(null)}
    >
      <Svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Strip ${strip.tag} along its rail: ${pieces.length} pieces`}
      >
        <Rect x={0} y={BODY.top + 32} width={width} height={32} fill={t.tray} stroke={t.line} />
        {pieces.map(({ item, x, w }, i) =>
          item.kind === "member" ? (
            <Piece key={item.tag} member={item} x={x} w={w} on={item.tag === chosen || many.includes(item.tag)} />
          ) : (
            <Rect
              key={`${item.kind} ${i}`}
              x={x}
              y={item.kind === "end stop" ? BODY.top + 16 : item.kind === "separator" ? BODY.top - 6 : BODY.top}
              width={w}
              height={BODY.height + (item.kind === "end stop" ? -32 : item.kind === "separator" ? 12 : 0)}
              fill={item.kind === "end stop" ? t.slate : item.kind === "separator" ? t.graphite : t.line}
              stroke={item.byHand ? t.harbour : t.graphite}
              strokeWidth={item.byHand ? 2 : 1}
              strokeDasharray={item.widthMm === null ? "3 3" : undefined}
            />
          ),
        )}
        <Bridges jumpers={strip.jumpers} members={members} />
      </Svg>
      <div
        ref={ghost}
        aria-hidden
        style={{
          display: "none",
          position: "absolute",
          left: 0,
          top: BODY.top - 8,
          height: BODY.height + 16,
          background: t.verdigris,
          color: t.onVerdigris,
          opacity: 0.6,
          textAlign: "center",
          pointerEvents: "none",
        }}
      />
      <div
        ref={mark}
        aria-hidden
        data-testid="drop-mark"
        style={{
          display: "none",
          position: "absolute",
          left: 0,
          top: BODY.top - 16,
          height: BODY.height + 32,
          width: 4,
          background: t.verdigris,
          pointerEvents: "none",
        }}
      />
    </div>
  );
}

/** Pieces along the rail, as wide as the room allows. */
function layOut(strip: StripPlan, room: number) {
  let x = SIDE_PX;
  const longMm = strip.items.reduce((sum, i) => sum + (i.widthMm ?? GUESSED_MM), 0);
  const scale = Math.min(SCALE.most, Math.max(SCALE.least, (room - 2 * SIDE_PX) / Math.max(1, longMm)));
  const pieces = strip.items.map((item) => {
    const w = (item.widthMm ?? GUESSED_MM) * scale;
    x += w;
    return { item, x: x - w, w };
  });
  const members: Drawn[] = pieces.flatMap(({ item, ...at }) =>
    item.kind === "member" ? [{ tag: item.tag, ...at }] : [],
  );
  return { pieces, members, width: x + SIDE_PX };
}

/** One member: drawn again only when something of it changes. */
const Piece = memo(function Piece({ member, x, w, on }: { member: Member; x: number; w: number; on: boolean }) {
  const t = useTokens();
  const middle = x + w / 2;
  const fuse = member.fuseA;
  const turned = member.print.length * 8 > w;
  return (
    <G testID={`drawn-${member.tag}`}>
      <Rect
        x={x}
        y={BODY.top}
        width={w}
        height={BODY.height}
        fill={on ? t.tray : t.paper}
        stroke={on ? t.verdigris : t.graphite}
        strokeWidth={on ? 3 : 1}
        strokeDasharray={member.widthMm === null ? "3 3" : undefined}
      />
      {member.levels.slice(1).map((l, n) => (
        <Line
          key={l.level}
          x1={x}
          x2={x + w}
          y1={BODY.top + (BODY.height * (n + 1)) / member.levels.length}
          y2={BODY.top + (BODY.height * (n + 1)) / member.levels.length}
          stroke={t.line}
        />
      ))}
      <Text
        x={middle}
        y={BODY.top - 8}
        fontSize={12}
        fontFamily={FONTS.mono}
        fill={t.graphite}
        textAnchor={turned ? "start" : "middle"}
        {...(turned ? { transform: `rotate(-60 ${middle} ${BODY.top - 8})` } : {})}
      >
        {member.print}
      </Text>
      {fuse === undefined ? null : (
        <G>
          <Rect
            x={middle - 6}
            y={BODY.top + BODY.height - 40}
            width={12}
            height={22}
            rx={2}
            fill={fuse === null ? t.paper : t.tray}
            stroke={fuse === null ? t.ochre : t.graphite}
            strokeDasharray={fuse === null ? "3 2" : undefined}
          />
          <Text
            x={middle}
            y={BODY.top + BODY.height + 14}
            fontSize={12}
            fontFamily={FONTS.mono}
            fill={fuse === null ? t.ochre : t.graphite}
            textAnchor="middle"
          >
            {fuse === null ? "?" : `${fuse}A`}
          </Text>
        </G>
      )}
      {member.levels.some((l) => l.undecided !== null) ? (
        <Text x={middle} y={BODY.top + BODY.height - 8} fontSize={16} fill={t.ochre} textAnchor="middle">
          ?
        </Text>
      ) : null}
    </G>
  );
});

const Bridges = memo(function Bridges({ jumpers, members }: { jumpers: readonly Jumper[]; members: readonly Drawn[] }) {
  const t = useTokens();
  const middles = new Map(members.map((m) => [m.tag, m.x + m.w / 2]));
  return (
    <>
      {jumpers.map((j) => {
        const y = BODY.top + 12 + (j.row - 1) * 16;
        const at = j.members.map((tag) => middles.get(tag)!);
        return (
          <G key={`${j.row} ${j.members[0]}`}>
            <Line x1={at[0]!} x2={at[at.length - 1]!} y1={y} y2={y} stroke={t.brick} strokeWidth={4} />
            {at.map((cx) => (
              <Circle key={cx} cx={cx} cy={y} r={5} fill={t.brick} />
            ))}
            {j.over.map((tag) => (
              <Circle key={tag} cx={middles.get(tag)!} cy={y} r={4} fill={t.paper} stroke={t.brick} strokeWidth={2} />
            ))}
          </G>
        );
      })}
    </>
  );
});
