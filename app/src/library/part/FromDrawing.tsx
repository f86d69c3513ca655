import { takeOutline, type PartOutline } from "@gray-bench/core/drawings/part-outline";
import type { Hole } from "@gray-bench/core/design/model";
import { useMemo, useState } from "react";
import { useDropzone } from "react-dropzone";
import { View } from "react-native";
import Svg, { Circle, Rect } from "react-native-svg";
import { Button } from "../../kit/Button";
import { formatLength } from "../../kit/format";
import { Select } from "../../kit/Select";
import { useSettings, useTokens } from "../../kit/settings";
import { Head, Small } from "../../kit/Text";
import { Refused } from "../Refused";
import { useOutline } from "../../queries/useLibrary";
import type { Draft } from "./useDraft";

const UNITS = { mm: 1, cm: 10, in: 25.4 } as const;
type Unit = keyof typeof UNITS;

const unitOf = (mm: number | null): Unit => (Object.keys(UNITS) as Unit[]).find((u) => UNITS[u] === mm) ?? "mm";

/** Width, height and holes of a part from a drawing of it: what is its body and which circles are holes is said before it is taken. */
export function FromDrawing({ draft }: { draft: Draft }) {
  const read = useOutline();
  const zone = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([file]) => {
      if (!file) return;
      if (zone.inputRef.current) zone.inputRef.current.value = "";
      read.mutate(file);
    },
  });
  return (
    <div {...zone.getRootProps()} data-testid="outline-drop">
      <View className="gap-2">
        <input {...zone.getInputProps({ "aria-label": "Drawing of the part" })} data-testid="outline-input" />
        <View className="flex-row">
          <Button
            label={read.isPending ? "Reading …" : "Outline and holes from a DXF"}
            disabled={read.isPending}
            onPress={zone.open}
            testID="outline-open"
          />
        </View>
        {read.error ? <Refused error={read.error} /> : null}
        {read.data ? (
          <Taken key={JSON.stringify(read.data.bodies)} outline={read.data} draft={draft} leave={() => read.reset()} />
        ) : null}
      </View>
    </div>
  );
}

function Taken({ outline, draft, leave }: { outline: PartOutline; draft: Draft; leave(): void }) {
  const settings = useSettings();
  const [unit, setUnit] = useState<Unit>(unitOf(outline.unitMm));
  const [body, setBody] = useState(0);
  const [holes, setHoles] = useState<ReadonlySet<number>>(new Set());
  const taken = useMemo(
    () => (outline.bodies.length > 0 ? takeOutline(outline, body, UNITS[unit]) : null),
    [outline, body, unit],
  );
  if (!taken) return <Small role="status">Nothing is drawn in it that could be a body.</Small>;
  const size = (w: number, h: number): string => `${formatLength(w, settings)} × ${formatLength(h, settings)}`;
  const names = outline.bodies.map((b, i) => `${i + 1}: ${size(b.w * UNITS[unit], b.h * UNITS[unit])}`);
  const chosen = taken.holes.filter((_, i) => holes.has(i));
  const count = chosen.reduce((sum, h) => sum + h.at.length, 0);
  const take = (): void => {
    const set = chosen.flatMap(({ d, at }) => at.map(({ x, y }): Hole => ({ kind: "round", x, y, d })));
    draft.change((p) => ({ ...p, w: taken.w, h: taken.h, ...(set.length > 0 ? { holes: set } : {}) }));
    leave();
  };
  return (
    <View className="gap-3 border-l-4 border-harbour pl-3" testID="outline">
      <Head>What the drawing offers</Head>
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        <View className="w-55">
          <Select
            label="Its body"
            value={names[body]!}
            choices={names}
            choose={(name) => {
              setBody(names.indexOf(name));
              setHoles(new Set());
            }}
            testID="outline-body"
          />
        </View>
        <View className="w-48">
          <Select
            label={outline.unitMm === null ? "Unit: the file says none" : "Unit of the drawing"}
            value={unit}
            choices={Object.keys(UNITS)}
            choose={(u) => setUnit(u as Unit)}
            testID="outline-unit"
          />
        </View>
      </View>
      <Picture outline={outline} body={body} unit={unit} chosen={chosen} />
      {taken.holes.length > 0 ? (
        <View className="gap-1">
          <Small>Which circles are holes?</Small>
          <View className="flex-row flex-wrap gap-1" role="group" aria-label="Circles that are holes">
            {taken.holes.map(({ d, at }, i) => (
              <Button
                key={d}
                label={`${at.length} × ⌀ ${formatLength(d, settings)}`}
                pressed={holes.has(i)}
                onPress={() =>
                  setHoles((now) => {
                    const next = new Set(now);
                    if (!next.delete(i)) next.add(i);
                    return next;
                  })
                }
                testID={`outline-holes-${i}`}
              />
            ))}
          </View>
        </View>
      ) : (
        <Small>No circle lies on it or near it.</Small>
      )}
      {outline.more ? <Small>It has more circles than are looked at.</Small> : null}
      <View className="flex-row flex-wrap gap-2">
        <Button
          kind="solid"
          label={`Take ${size(taken.w, taken.h)}${count > 0 ? ` and ${count} ${count === 1 ? "hole" : "holes"}` : ""}`}
          onPress={take}
          testID="outline-take"
        />
        <Button label="Cancel" onPress={leave} testID="outline-leave" />
      </View>
      {count > 0 && draft.part.holes?.length ? <Small>The holes it has now go.</Small> : null}
    </View>
  );
}

const PICTURE_PX = 220;

function Picture({
  outline,
  body,
  unit,
  chosen,
}: {
  outline: PartOutline;
  body: number;
  unit: Unit;
  chosen: ReturnType<typeof takeOutline>["holes"];
}) {
  const t = useTokens();
  const box = outline.bodies[body]!;
  const mm = UNITS[unit];
  const side = Math.max(box.w, box.h) * 1.5;
  const k = PICTURE_PX / side;
  const at = (x: number, y: number): [number, number] => [
    (x - (box.x + box.w / 2 - side / 2)) * k,
    PICTURE_PX - (y - (box.y + box.h / 2 - side / 2)) * k,
  ];
  const holes = new Set(
    chosen.flatMap(({ at: places }) => places.map((p) => `${Math.round(p.x * 10)} ${Math.round(p.y * 10)}`)),
  );
  return (
    <Svg
      width={PICTURE_PX}
      height={PICTURE_PX}
      role="img"
      aria-label="The drawing, with the body and the circles that are taken"
    >
      {outline.bodies.map((b, i) => {
        const [x, y] = at(b.x, b.y + b.h);
        const on = i === body;
        return (
          <Rect
            key={i}
            x={x}
            y={y}
            width={b.w * k}
            height={b.h * k}
            fill={on ? t.tray : "none"}
            stroke={on ? t.verdigris : t.line}
            strokeWidth={on ? 2.5 : 1}
          />
        );
      })}
      {outline.circles.map((c, i) => {
        const [x, y] = at(c.x, c.y);
        const place = `${Math.round((c.x - box.x) * mm * 10)} ${Math.round((c.y - box.y) * mm * 10)}`;
        const on = holes.has(place);
        return (
          <Circle
            key={i}
            cx={x}
            cy={y}
            r={Math.max(1, c.r * k)}
            fill={on ? t.brick : "none"}
            stroke={on ? t.brick : t.slate}
            strokeWidth={1}
          />
        );
      })}
    </Svg>
  );
}
