import { combText } from "@gray-bench/core/lineups/comb-text";
import type { StripPlan } from "@gray-bench/core/lineups/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Check } from "../events/Check";
import { TickNotes } from "../events/TickNotes";
import { useTicks } from "../events/useTicks";
import { Button } from "../kit/Button";
import { formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Head, Small } from "../kit/Text";
import { VirtualList } from "../kit/VirtualList";

interface Piece {
  /** What is ticked: the piece with its part and its place, so that another part is ticked anew. */
  id: string;
  title: string;
  part: string;
  more: string;
}

/** What is hung, in order, and then the jumpers that are pressed in. */
export function piecesToHang(strip: StripPlan): Piece[] {
  const seen = new Map<string, number>();
  /** Pieces of one kind behind one member are told apart by their count. */
  const unique = (id: string): string => {
    const n = (seen.get(id) ?? 0) + 1;
    seen.set(id, n);
    return n === 1 ? id : `${id} (${n})`;
  };
  const hung = strip.items.map((item): Piece => {
    const part = item.part ?? "no part";
    return item.kind === "member"
      ? {
          id: unique(`${item.tag} ${part}`),
          title: item.tag,
          part,
          more: [
            `marker ${item.print}`,
            ...(item.fuseA === undefined ? [] : [item.fuseA === null ? "no fuse stated" : `fuse ${item.fuseA} A`]),
          ].join(", "),
        }
      : {
          id: unique(`${item.kind} ${part} behind ${item.behind ?? "nothing"}`),
          title: item.kind,
          part,
          more: item.why,
        };
  });
  const jumpers = strip.jumpers.map((j): Piece => {
    const [first, last] = [j.members[0]!, j.members[j.members.length - 1]!];
    return {
      id: unique(`jumper ${j.part ?? "?"} row ${j.row} ${j.members.join(" ")}`),
      title: `jumper, row ${j.row}`,
      part: j.part ?? "no comb",
      more: `${first} to ${last}, ${combText(j)}${j.over.length > 0 ? `, teeth at ${j.over.join(", ")} broken off` : ""}`,
    };
  });
  return [...hung, ...jumpers];
}

const ROW_PX = 60;

/** The strip as the one who builds it needs it: piece by piece in order of hanging on, ticked as it goes; ticks are kept. */
export function Assembly({ job, strip }: { job: string; strip: StripPlan }) {
  const settings = useSettings();
  const pieces = useMemo(() => piecesToHang(strip), [strip]);
  const { done, tick, waiting, error } = useTicks(job, `strip ${strip.tag}`);
  const isDone = (p: Piece): boolean => done.get(p.id)?.done ?? false;
  const doneBy = (p: Piece): string => {
    const who = isDone(p) ? (done.get(p.id)?.who ?? "") : "";
    return who === "" ? p.more : `${p.more} · ${who}`;
  };
  const ticked = pieces.filter(isDone).length;
  const next = pieces.findIndex((p) => !isDone(p));
  if (pieces.length === 0)
    return <Empty title="Nothing to hang" text={`No member of ${strip.tag} is in the design.`} />;
  return (
    <View className="min-h-0 flex-1" testID="assembly">
      <View className="gap-1 border-b border-line p-3">
        <Head testID="assembly-sum">
          {ticked} of {pieces.length} hung
        </Head>
        <Small>
          {strip.lengthMm === null
            ? "length not known"
            : `${formatLength(strip.lengthMm, settings)} along rail ${strip.rail}`}
          {strip.at === null ? "" : `, from ${formatLength(strip.at, settings)} of it`}
        </Small>
        <TickNotes
          waiting={waiting}
          error={error}
          what="ticks"
          label="Your name, beside what you tick"
          testID="assembly"
        />

        {ticked > 0 ? (
          <View className="flex-row">
            <Button
              label="Begin again"
              onPress={() =>
                tick(
                  pieces.filter(isDone).map((p) => p.id),
                  false,
                )
              }
              testID="assembly-again"
            />
          </View>
        ) : null}
      </View>
      <VirtualList
        count={pieces.length}
        rowPx={ROW_PX}
        label={`Pieces of ${strip.tag} in order of hanging on`}
        testID="assembly-list"
        keyOf={(i) => pieces[i]!.id}
        chosen={next}
        row={(i) => (
          <Check
            done={isDone(pieces[i]!)}
            press={() => tick([pieces[i]!.id], !isDone(pieces[i]!))}
            px={ROW_PX}
            title={pieces[i]!.title}
            beside={pieces[i]!.part}
            more={doneBy(pieces[i]!)}
            right={String(i + 1)}
            testID={`piece-${i + 1}`}
          />
        )}
      />
    </View>
  );
}
