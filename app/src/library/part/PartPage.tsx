import { lacksOf } from "@gray-bench/core/library/lacks";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { OPENINGS, tapOpening } from "@gray-bench/core/library/part-air";
import { tapHole, tapSlot } from "@gray-bench/core/library/part-holes";
import { tapPin, type Snapped } from "@gray-bench/core/library/part-shape";
import { Link } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import Redo2 from "lucide-react-native/icons/redo-2";
import Undo2 from "lucide-react-native/icons/undo-2";
import { Button } from "../../kit/Button";
import { choose } from "../../kit/choice";
import { formatLength } from "../../kit/format";
import { useSettings, useTokens } from "../../kit/settings";
import { SeveritySign } from "../../kit/Severity";
import { Empty, Failed, Loading } from "../../kit/States";
import { Small, Title } from "../../kit/Text";
import { useKeys } from "../../kit/useKeys";
import { useWide } from "../../kit/useWide";
import { KeepParts } from "../KeepParts";
import { PartUses } from "../PartUses";
import { useLibrary, useLibraryVersions } from "../../queries/useLibrary";
import { Air, AirForm } from "./Air";
import { Curves } from "./Curves";
import { FromDrawing } from "./FromDrawing";
import { HoleForm, Holes } from "./Holes";
import { PartDrawing, SETS } from "./PartDrawing";
import { PartFields } from "./PartFields";
import { PinForm, Pins } from "./Pins";
import { SlotForm, Slots } from "./Slots";
import { useDraft } from "./useDraft";

interface Props {
  number: string;
  chosen: Chosen;
  side: boolean;
  /** Where it is used is listed. */
  uses: boolean;
}

/** What a tap sets, and which of them is chosen: a pin or a slot by its name, a hole by its number. */
export interface Chosen {
  set: string | undefined;
  pin: string | undefined;
  hole: string | undefined;
  slot: string | undefined;
  air: string | undefined;
}

/** What a choice of one of them takes away. */
const NONE = { pin: undefined, hole: undefined, slot: undefined, air: undefined };

/** One part of the library, or one that is to be: drawn to scale, changed, and kept as a new version. */
export function PartPage({ number, chosen, side, uses }: Props) {
  const { data: versions, error, refetch } = useLibraryVersions();
  const on = versions?.[0]?.hash;
  const library = useLibrary(on);
  if (!versions || (on !== undefined && !library.data))
    return (error ?? library.error) ? (
      <Failed error={error ?? library.error} retry={() => void (error ? refetch() : library.refetch())} />
    ) : (
      <Loading text="Reading the part" />
    );
  const parts = library.data?.parts ?? [];
  const saved = parts.find((p) => p.number === number);
  return (
    <Editor
      key={on ?? ""}
      saved={saved ?? { number }}
      isNew={!saved}
      parts={parts}
      on={on ?? ""}
      next={(versions[0]?.number ?? 0) + 1}
      of={chosen}
      side={side}
      uses={uses}
    />
  );
}

const MOST_LIKE = 40;

function Editor({
  saved,
  isNew,
  parts,
  on,
  next,
  of: { set, pin, hole: chosenHole, slot, air },
  side,
  uses,
}: {
  saved: LibraryPart;
  isNew: boolean;
  parts: readonly LibraryPart[];
  on: string;
  next: number;
  of: Chosen;
  side: boolean;
  uses: boolean;
}) {
  const t = useTokens();
  const settings = useSettings();
  const wide = useWide();
  const draft = useDraft(saved);
  const { part, change, undo, redo } = draft;
  // Only what does something to the air has openings for it.
  const offered = SETS.filter((s) => s !== "air" || part.climate);
  const sets = offered.find((s) => s === set) ?? "pins";
  const [landed, setLanded] = useState<{ name: string; text: string } | null>(null);
  const chosen = part.pins?.find((p) => p.name === pin);
  useKeys({ "Ctrl+z": undo, "Ctrl+y": redo, "Ctrl+Shift+z": redo });
  const missing = lacksOf(part);
  const alike = useMemo(
    () =>
      parts
        .filter((p) => p.number !== part.number)
        .sort((a, b) => Number(b.category === part.category) - Number(a.category === part.category)),
    [parts, part.number, part.category],
  );
  const withPins = useMemo(
    () => alike.filter((p) => p.pins?.some((one) => one.x !== undefined)).slice(0, MOST_LIKE),
    [alike],
  );
  const withHoles = useMemo(() => alike.filter((p) => p.holes?.length).slice(0, MOST_LIKE), [alike]);
  // What is chosen is one of what a tap sets.
  const choosePin = (name: string | undefined): void => choose({ ...NONE, pin: name });
  const chooseHole = (nth: number | undefined): void =>
    choose({ ...NONE, hole: nth === undefined ? undefined : String(nth) });
  const chooseSlot = (name: string | undefined): void => choose({ ...NONE, slot: name });
  const chooseOpening = (name: string | undefined): void => choose({ ...NONE, air: name });
  const opening = OPENINGS.find((o) => o === air && part.climate?.[o]);
  const hole = chosenHole === undefined ? null : Number(chosenHole);
  const atHole = hole !== null && part.holes?.[hole - 1] ? hole : null;
  const atSlot = part.slots?.find((s) => s.name === slot);
  const where = ({ x, y, on: lines }: Snapped): string =>
    `At ${formatLength(x, settings)}, ${formatLength(y, settings)}${lines.length > 0 ? `, in line with ${lines.join(" and ")}` : ""}.`;
  const place = (x: number, y: number, reach: number): void => {
    if (sets === "holes") {
      const tapped = tapHole(part, x, y, reach);
      change(() => tapped.part);
      const nth = tapped.part.holes!.length;
      setLanded({ name: `hole ${nth}`, text: where(tapped.at) });
      chooseHole(nth);
      return;
    }
    if (sets === "slots") {
      const tapped = tapSlot(part, x, y, reach);
      change(() => tapped.part);
      setLanded({ name: `slot ${tapped.name}`, text: where(tapped.at) });
      chooseSlot(tapped.name);
      return;
    }
    if (sets === "air") {
      const tapped = tapOpening(part, opening, x, y, reach);
      if (!tapped) return;
      change(() => tapped.part);
      setLanded({ name: tapped.which, text: where(tapped.at) });
      chooseOpening(tapped.which);
      return;
    }
    const { part: tapped, name, at, like: as } = tapPin(part, pin, x, y, reach);
    change(() => tapped);
    const rest = as === null ? "" : ` Clamp and sizes as pin ${as}: correct them where they differ.`;
    setLanded({ name: `pin ${name}`, text: `${where(at)}${rest}` });
    choosePin(name);
  };
  const landedOf = (name: string): string | null => (landed?.name === name ? landed.text : null);
  const drawing =
    part.w && part.h && part.d ? (
      <PartDrawing
        part={part}
        pin={pin}
        side={side}
        sets={sets}
        hole={atHole}
        slot={slot}
        opening={sets === "air" ? opening : undefined}
        choosePin={choosePin}
        chooseHole={chooseHole}
        chooseSlot={chooseSlot}
        chooseOpening={chooseOpening}
        place={place}
      />
    ) : (
      <Empty title="Nothing to draw yet" text="Write width, height and depth: the body is drawn to scale then." />
    );
  const form = (
    <View className="gap-5 p-3">
      {missing.length > 0 ? (
        <View className="flex-row items-start gap-2" testID="part-lacks">
          <View className="pt-0.5">
            <SeveritySign severity="note" />
          </View>
          <Small className="min-w-0 flex-1 text-harbour">It stands here {missing.join(", ")}.</Small>
        </View>
      ) : null}
      {chosen ? (
        <PinForm
          key={chosen.name}
          draft={draft}
          pin={chosen}
          landed={landedOf(`pin ${chosen.name}`)}
          choosePin={choosePin}
        />
      ) : null}
      {atHole === null ? null : (
        <HoleForm key={atHole} draft={draft} nth={atHole} landed={landedOf(`hole ${atHole}`)} chooseHole={chooseHole} />
      )}
      {atSlot ? (
        <SlotForm
          key={atSlot.name}
          draft={draft}
          slot={atSlot}
          landed={landedOf(`slot ${atSlot.name}`)}
          chooseSlot={chooseSlot}
        />
      ) : null}
      {opening ? (
        <AirForm
          key={opening}
          draft={draft}
          opening={opening}
          landed={landedOf(opening)}
          chooseOpening={chooseOpening}
        />
      ) : null}
      {draft.meanwhile ? (
        <View role="status" className="gap-2 border-l-4 border-ochre pl-3" testID="part-meanwhile">
          <Small>
            The library says something else of this part since you began. What you keep writes over it, all of the part.
          </Small>
          <View className="flex-row">
            <Button label="Begin again with the library's" onPress={draft.drop} testID="part-drop" />
          </View>
        </View>
      ) : null}
      {draft.changed ? <KeepParts said="Changed here, and not kept yet." parts={[part]} on={on} next={next} /> : null}
      <PartFields draft={draft} parts={parts} />
      <FromDrawing draft={draft} />
      <Pins draft={draft} pin={pin} like={withPins} choosePin={choosePin} />
      <Holes draft={draft} like={withHoles} hole={atHole} chooseHole={chooseHole} />
      <Slots draft={draft} slot={slot} chooseSlot={chooseSlot} />
      <Air draft={draft} opening={opening} chooseOpening={chooseOpening} />
      <Curves part={part} />
      {isNew ? null : <PartUses part={part.number} shown={uses} />}
    </View>
  );
  return (
    <View className="min-h-0 flex-1" testID="part-page">
      <View className="flex-row flex-wrap items-center gap-2 border-b border-line px-3 py-2">
        <View className={wide ? "min-w-0 flex-1" : "w-full"}>
          <Title numberOfLines={1}>{part.number}</Title>
          <Small numberOfLines={1}>{isNew ? "not in the library yet" : (saved.text ?? "")}</Small>
        </View>
        {side ? null : (
          <View className="flex-row items-center gap-1" role="group" aria-label="What a tap on the drawing sets">
            {offered.map((one) => (
              <Button
                key={one}
                label={`${one[0]!.toUpperCase()}${one.slice(1)}`}
                pressed={sets === one}
                onPress={() => choose({ ...NONE, set: one === "pins" ? undefined : one })}
                testID={`part-sets-${one}`}
              />
            ))}
          </View>
        )}
        <Button
          label={side ? "From the front" : "From the side"}
          onPress={() => choose({ side: side ? undefined : "1" })}
          testID="part-side"
        />
        <Button
          label="Undo"
          bare
          disabled={!draft.canUndo}
          icon={<Undo2 size={20} color={t.graphite} />}
          onPress={undo}
          testID="part-undo"
        />
        <Button
          label="Redo"
          bare
          disabled={!draft.canRedo}
          icon={<Redo2 size={20} color={t.graphite} />}
          onPress={redo}
          testID="part-redo"
        />
        <Link
          href={`/library?part=${encodeURIComponent(part.number)}`}
          className="min-h-touch justify-center rounded-edge border border-line px-3 py-2.5 font-medium text-body text-graphite"
          testID="part-library"
        >
          Library
        </Link>
      </View>
      {wide ? (
        <View className="min-h-0 flex-1 flex-row">
          <View className="min-w-0 flex-1">{drawing}</View>
          <ScrollView className="w-120 grow-0 border-l border-line">{form}</ScrollView>
        </View>
      ) : (
        <>
          <View className="h-[42%] border-b border-line">{drawing}</View>
          <ScrollView className="min-h-0 flex-1">{form}</ScrollView>
        </>
      )}
    </View>
  );
}
