import { storeOf } from "@gray-bench/core/kits/walk";
import { Link } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { CodeField } from "../kit/CodeField";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { takenOf, type Props } from "./choice";
import { kitName } from "./KitCard";
import { PickCard } from "./PickCard";
import { PickNotes } from "./PickNotes";
import { fitsCode, isDone, leftOf, toPick, walkFor, type ToPick } from "./toPick";
import { useAmounts } from "./useAmounts";
import { NAMELESS } from "../events/waiting";
import { usePicks, type Said } from "./usePicks";

/** For whoever walks through the store: one line at a time, large; kept without a network too. */
export function Pick({ job, result, rules, design, choice }: Props) {
  const codes = takenOf(choice);
  const { walk: far } = useAmounts();
  const kits = useMemo(() => result.kits.filter((k) => takenOf(choice).includes(k.code)), [result, choice]);
  const { walk, saves } = useMemo(() => walkFor(kits, result, storeOf(rules), far), [kits, result, rules, far]);
  const all = useMemo(() => toPick(kits, walk), [kits, walk]);
  const [wrong, setWrong] = useState<string | null>(null);
  const [here, setHere] = useState<ToPick | null>(null);
  const picks = usePicks(job.code, here && { kit: here.kit.code, line: here.key });
  const { log } = picks;
  // What somebody else fetches just now is left to them, as long as there is anything else. Who came to it later leaves it: two who begin
  // at one moment would both, again and again, and no card changes in the hand of who was there.
  const theirs = new Map(
    picks.pickers
      .filter((p) => p.before || `${p.kit} ${p.line}` !== here?.id)
      .map((p) => [`${p.kit} ${p.line}`, p.who]),
  );
  const open = all.filter((p) => !isDone(p, log));
  const asked = all.find((p) => p.id === choice.line);
  const now = asked ?? open.find((p) => !theirs.has(p.id)) ?? open[0] ?? null;
  if (now?.id !== here?.id) setHere(now);
  if (kits.length === 0)
    return (
      <View className="p-3">
        <Empty
          title="No kit to pick"
          text={codes.length === 0 ? "Choose kits on the board." : "This revision has none of these kits any more."}
        />
        <LinkLine href={jobHref(job.code, "kits")} testID="to-board" label="All kits" />
      </View>
    );
  const at = now ? all.indexOf(now) : all.length;
  const go = (to: ToPick | undefined): void => {
    setWrong(null);
    choose({ line: to?.id }, true);
  };
  /** The next that is open behind this one, else the first. */
  const next = (): void => {
    const rest = open.filter((p) => p.id !== now?.id);
    go(rest.find((p) => all.indexOf(p) > at && !theirs.has(p.id)) ?? rest[0]);
  };
  const say = (said: readonly Said[]): void => {
    picks.say(said);
    go(undefined);
  };
  const picked = (one: ToPick, quantity: number): Said => ({
    kit: one.kit.code,
    line: one.key,
    what: "picked",
    quantity,
  });
  const scanned = (code: string): void => {
    if (!now) return;
    if (fitsCode(code, now)) {
      const left = leftOf(now, log);
      if (left > 0) say([picked(now, left)]);
      return;
    }
    const other = open.find((p) => fitsCode(code, p));
    if (other) {
      setWrong(`${code} is another line of this walk: it is shown now. Scan it again to pick it.`);
      choose({ line: other.id }, true);
    } else
      setWrong(
        `${code} is not wanted here. Wanted: ${now.line.part ?? now.line.text}, in ${now.line.place ?? "no place"}.`,
      );
  };
  const last = [...log]
    .flatMap(([code, k]) => (codes.includes(code) ? k.events : []))
    .filter((e) => (e.what === "picked" || e.what === "short") && e.who === picks.who)
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .at(-1);
  const undo = (): void => {
    if (!last) return;
    picks.say([{ kit: last.kit, line: last.line, what: "undone", of: last.id }]);
    go(all.find((p) => p.kit.code === last.kit && p.key === last.line));
  };
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-160 gap-3 p-3" testID="picking">
      <View className="flex-row flex-wrap items-center justify-between gap-2">
        <Head testID="pick-sum">
          {all.length - open.length} of {all.length} lines
        </Head>
        <Small testID="pick-walk">
          {far(walk.metres)}, {saves}
        </Small>
        <LinkLine href={jobHref(job.code, "kits")} testID="to-board" label="All kits" />
      </View>
      {now ? (
        <>
          <PickCard
            one={now}
            left={leftOf(now, log)}
            bin={kits.length > 1 ? { nth: kits.indexOf(now.kit) + 1, name: kitName(now.kit) } : null}
            design={design}
            other={theirs.get(now.id)}
            picked={() => say([picked(now, leftOf(now, log))])}
            short={log.get(now.kit.code)?.lines.get(now.key)?.short ?? null}
            missing={(there, reason) =>
              say([
                ...(there > 0 ? [picked(now, there)] : []),
                { kit: now.kit.code, line: now.key, what: "short", quantity: leftOf(now, log) - there, reason },
              ])
            }
          />
          {wrong ? (
            <View role="alert" testID="pick-wrong" className="border-l-4 border-brick p-3">
              <Body>{keepTags(wrong)}</Body>
            </View>
          ) : null}
          <CodeField label="Scan or type the code of the part or its place" id="pick" take={scanned} />
        </>
      ) : (
        <View className="gap-2" testID="pick-ready">
          <Body className="font-strong text-lead">All lines are done.</Body>
          <Body>Say on its ticket when a kit is at the bench.</Body>
          {kits.map((k) => (
            <Link
              key={k.code}
              href={jobHref(job.code, "kits", { kit: k.code })}
              testID={`ready-${k.code}`}
              className="min-h-glove rounded-edge border border-line px-4 py-3 font-medium text-name text-harbour underline"
            >
              {keepTags(kitName(k))}
            </Link>
          ))}
        </View>
      )}
      <View className="flex-row flex-wrap gap-2">
        <Button label="Back" disabled={at === 0} onPress={() => go(all[at - 1])} testID="pick-before" />
        {now ? (
          <Button label="Later" disabled={open.length < 2 && open.includes(now)} onPress={next} testID="pick-later" />
        ) : null}
        {last ? (
          <Button
            label={keepTags(`Undo ${last.line.replace(/ \((pcs|m)\)$/, "")}`)}
            onPress={undo}
            testID="pick-undo"
          />
        ) : null}
      </View>
      <PickNotes picks={picks} />
      {picks.pickers
        .filter((p) => codes.includes(p.kit))
        .map((p) => (
          <Small key={p.device} testID="other-picker" className="text-harbour">
            {p.who === NAMELESS ? "Somebody" : p.who} picks here too
            {p.line ? `: ${p.line.replace(/ \((pcs|m)\)$/, "")}` : ""}
          </Small>
        ))}
    </ScrollView>
  );
}
