import {
  HOLE_KINDS,
  asKind,
  holeRow,
  holesOf,
  middleOf,
  movedTo,
  withMirrored,
  type HoleKind,
} from "@gray-bench/core/library/part-holes";
import type { LibraryPart } from "@gray-bench/core/library/library";
import type { Hole } from "@gray-bench/core/design/model";
import { View } from "react-native";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { formatLength } from "../../kit/format";
import { MmField } from "../../kit/MmField";
import { Select } from "../../kit/Select";
import { useSettings, useTokens, type Settings } from "../../kit/settings";
import { Head, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";
import { Repeat } from "./Repeat";
import type { Draft } from "./useDraft";

const WORDS: Record<Hole["kind"], string> = {
  round: "round hole",
  thread: "threaded hole",
  countersunk: "countersunk hole",
  slot: "slotted hole",
  rect: "rectangle",
  knockout: "knockout",
  polygon: "cutout of any shape",
};

function sizeText(hole: Hole, settings: Settings): string {
  switch (hole.kind) {
    case "thread":
      return hole.thread;
    case "round":
    case "knockout":
    case "countersunk":
      return `⌀ ${formatLength(hole.d, settings)}`;
    case "slot":
    case "rect":
      return `${formatLength(hole.w, settings)} × ${formatLength(hole.h, settings)}`;
    case "polygon":
      return `${hole.points.length} corners`;
  }
}

interface Props {
  draft: Draft;
  /** Other parts with holes, the most alike first. */
  like: readonly LibraryPart[];
  /** Number of the chosen one, counted from 1. */
  hole: number | null;
  chooseHole(nth: number | undefined): void;
}

/** The hole pattern with which it is fixed on a plate or a door: set by tapping, by number, in rows, mirrored. */
export function Holes({ draft: { part, change }, like, hole, chooseHole }: Props) {
  const settings = useSettings();
  const holes = part.holes ?? [];
  const mirrored = withMirrored(part);
  return (
    <View className="gap-2" testID="part-holes">
      <Head>Holes ({holes.length})</Head>
      {holes.length === 0 ? (
        <Small>None. A tap on the drawing sets one where holes are set; it may lie beside the body.</Small>
      ) : null}
      <View className="flex-row flex-wrap gap-1" role="group" aria-label="Holes">
        {holes.map((h, i) => (
          <Button
            key={i}
            label={`${i + 1}: ${WORDS[h.kind]} ${sizeText(h, settings)}`}
            pressed={hole === i + 1}
            onPress={() => chooseHole(hole === i + 1 ? undefined : i + 1)}
            testID={`hole-${i + 1}`}
          />
        ))}
      </View>
      <View className="flex-row flex-wrap gap-2">
        <Button
          label="Add a hole"
          onPress={() => {
            change((p) => ({
              ...p,
              holes: [...(p.holes ?? []), { kind: "round", x: (p.w ?? 0) / 2, y: (p.h ?? 0) / 2, d: 4.5 }],
            }));
            chooseHole(holes.length + 1);
          }}
          testID="hole-add"
        />
        {mirrored.length > holes.length ? (
          <Button
            label="Mirror them left to right"
            onPress={() => change((p) => ({ ...p, holes: withMirrored(p) }))}
            testID="hole-mirror"
          />
        ) : null}
      </View>
      {holes.length === 0 && like.length > 0 ? (
        <View className="max-w-80">
          <Select
            label="Or take those of a like part"
            value=""
            choices={like.map((l) => `${l.number}, ${l.holes!.length} holes`)}
            choose={(text) => {
              const from = like.find((l) => text.startsWith(`${l.number}, `));
              if (from) change((p) => ({ ...p, holes: holesOf(from, p) }));
            }}
            testID="holes-like"
          />
        </View>
      ) : null}
    </View>
  );
}

/** The chosen hole. */
export function HoleForm({
  draft: { part, change },
  nth,
  landed,
  chooseHole,
}: {
  draft: Draft;
  nth: number;
  landed: string | null;
  chooseHole(nth: number | undefined): void;
}) {
  const t = useTokens();
  const hole = part.holes![nth - 1]!;
  const middle = middleOf(hole);
  const write = (next: Hole): void =>
    change((p) => ({ ...p, holes: (p.holes ?? []).map((h, i) => (i === nth - 1 ? next : h)) }));
  const mm = (label: string, value: number | undefined, set: (v: number) => Hole, testID: string, least = 0.1) => (
    <View className="w-26">
      <MmField
        label={label}
        mm={value}
        change={(v) => {
          if (v !== undefined) write(set(v));
        }}
        least={least}
        testID={testID}
      />
    </View>
  );
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="hole-form">
      <Head>Hole {nth}</Head>
      {landed ? (
        <Small role="status" testID="hole-landed">
          {landed}
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        <View className="w-45">
          {hole.kind === "polygon" ? (
            <Small>{WORDS.polygon}: it can be moved here.</Small>
          ) : (
            <Select
              label="What it is"
              value={WORDS[hole.kind]}
              choices={HOLE_KINDS.map((k) => WORDS[k])}
              choose={(word) => write(asKind(hole, HOLE_KINDS.find((k: HoleKind) => WORDS[k] === word) ?? "round"))}
              testID="hole-kind"
            />
          )}
        </View>
        {mm("Middle from the left", middle.x, (x) => movedTo(hole, x, middle.y), "hole-x", -1000)}
        {mm("Middle from below", middle.y, (y) => movedTo(hole, middle.x, y), "hole-y", -1000)}
      </View>
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        {hole.kind === "thread" ? <Thread hole={hole} write={write} /> : null}
        {hole.kind === "round" || hole.kind === "knockout" || hole.kind === "countersunk"
          ? mm("Diameter", hole.d, (d) => ({ ...hole, d }), "hole-d")
          : null}
        {hole.kind === "countersunk" ? mm("Head", hole.head, (head) => ({ ...hole, head }), "hole-head") : null}
        {hole.kind === "slot" || hole.kind === "rect" ? (
          <>
            {mm("Wide", hole.w, (w) => movedTo({ ...hole, w }, middle.x, middle.y), "hole-w")}
            {mm("High", hole.h, (h) => movedTo({ ...hole, h }, middle.x, middle.y), "hole-h")}
          </>
        ) : null}
        {hole.kind === "rect" ? mm("Corners", hole.r ?? 0, (r) => ({ ...hole, r }), "hole-r", 0) : null}
        <Button
          label={`Delete hole ${nth}`}
          bare
          icon={<Trash size={18} color={t.graphite} />}
          onPress={() => {
            change((p) => ({ ...p, holes: (p.holes ?? []).filter((_, i) => i !== nth - 1) }));
            chooseHole(undefined);
          }}
          testID="hole-delete"
        />
      </View>
      <Repeat
        what="hole"
        told={(more) => `${more} more`}
        add={(count, dx, dy) => change((p) => ({ ...p, holes: [...(p.holes ?? []), ...holeRow(hole, count, dx, dy)] }))}
      />
      <View className="flex-row">
        <Button label="Done" onPress={() => chooseHole(undefined)} testID="hole-done" />
      </View>
    </View>
  );
}

/** `M4`, `M20x1.5`: the metric thread and its pitch. */
const THREAD = /^M\d+(\.\d+)?(x\d+(\.\d+)?)?$/;

function Thread({ hole, write }: { hole: Extract<Hole, { kind: "thread" }>; write(hole: Hole): void }) {
  const { text, typed, type, leave } = useTyped(hole.thread, (written) => {
    const thread = written.trim().replace(/^m/, "M");
    if (!THREAD.test(thread)) return false;
    write({ ...hole, thread });
    return true;
  });
  return (
    <View className="w-32 gap-1">
      <Field label="Thread" value={text} change={type} leave={leave} hint="M4" testID="hole-thread" />
      {typed !== null && !THREAD.test(typed.trim().replace(/^m/, "M")) ? (
        <Small role="alert" className="text-brick">
          Write it like M4 or M20x1.5.
        </Small>
      ) : null}
    </View>
  );
}
