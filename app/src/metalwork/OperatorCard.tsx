import type { MachineJob, MachineNow } from "@gray-bench/contract/metalwork";
import type { MetalworkRules } from "@gray-bench/core/metalwork/rules";
import { sheetsOf, type Sheet } from "@gray-bench/core/metalwork/events";
import type { FaceWork } from "@gray-bench/core/metalwork/result";
import { seenText, TURN_TEXT, toolText } from "@gray-bench/core/metalwork/say";
import { useState } from "react";
import { View } from "react-native";
import { TickNotes } from "../events/TickNotes";
import { useEvents, type Said } from "../events/useEvents";
import { freshId } from "../events/waiting";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatLength, formatMoment } from "../kit/format";
import { Select } from "../kit/Select";
import { useSettings } from "../kit/settings";
import { Empty, Failed } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { fileLinks } from "./FaceSheet";
import { LiePicture } from "./LiePicture";
import { minutesText } from "./say";
import { machineOf, useMachines, useSend, useStop } from "./useMachines";

const REASONS = ["tool broke", "wrong sheet", "lay wrong", "design changed", "other"] as const;

/** For whoever stands at the machine: which sheet, how it lies, what to load, the program; begun, done, or scrapped. */
export function OperatorCard({
  job,
  work,
  rules,
  wide,
}: {
  job: string;
  work: FaceWork;
  rules: MetalworkRules;
  wide: boolean;
}) {
  const settings = useSettings();
  const [which, setWhich] = useState(0);
  const { events, say, waiting, error } = useEvents(job, "sheet");
  const machines = useMachines();
  const sheets = sheetsOf(work.face, events);
  const sheet = sheets[sheets.length - 1]!;
  const setUp = work.setUps[Math.min(which, work.setUps.length - 1)];
  const machine = rules.machines.find((m) => m.name === work.machine);
  if (!setUp || !machine)
    return (
      <Empty
        title="Nothing for the machine"
        text={
          machine
            ? "No hole of this face can be made there: the open points say why."
            : "The shop has no machine of the name that is asked for. Name another under Sheet."
        }
      />
    );
  const nth = work.setUps.indexOf(setUp) + 1;
  const now = machineOf(machines.data, work.machine);
  const [scrapped] = sheets.filter((s) => s.state === "scrapped").slice(-1);
  return (
    <View className="gap-3 p-3" testID="operator-card">
      <View>
        <Title testID="card-face">{work.face}</Title>
        <Body className="font-strong text-lead" testID="card-seen">
          {seenText(work).toUpperCase()} SIDE UP
        </Body>
        <Body testID="card-lies">
          {TURN_TEXT[work.turn]}, its {machine.corner} corner as it lies{" "}
          {setUp.shift.x === 0 && setUp.shift.y === 0 ? "on the zero of the machine" : "beside the zero of the machine"}
        </Body>
        <Small>
          {formatLength(work.w, settings)} × {formatLength(work.h, settings)},{" "}
          {work.thicknessMm === null ? "thickness not stated" : formatLength(work.thicknessMm, settings)}
          {work.material === null ? "" : `, ${work.material}`}; about {minutesText(setUp.minutes * 60)} on{" "}
          {machine.name}
        </Small>
      </View>
      {work.setUps.length > 1 ? (
        <View className="flex-row flex-wrap gap-2" role="group" aria-label="Set-ups">
          {work.setUps.map((_, i) => (
            <Button
              key={i}
              label={`Set-up ${i + 1} of ${work.setUps.length}`}
              pressed={i + 1 === nth}
              onPress={() => setWhich(i)}
              testID={`set-up-${i + 1}`}
            />
          ))}
        </View>
      ) : null}
      <LiePicture work={work} setUp={setUp} machine={machine} clamps={rules.clamps} width={wide ? 420 : 340} />
      {setUp.shift.x !== 0 || setUp.shift.y !== 0 ? (
        <Body testID="card-moved">
          Zero of the machine at X {formatLength(setUp.shift.x, settings)}, Y {formatLength(setUp.shift.y, settings)}{" "}
          from the {machine.corner} corner as it lies
        </Body>
      ) : null}
      <View>
        <Head>Tools to load</Head>
        {[...new Set(setUp.steps.map((s) => s.tool))].map((tool) => (
          <View key={tool} className="min-h-9 flex-row items-center gap-3 border-b border-line">
            <Mono className="w-glove text-name">{tool}</Mono>
            <Body className="flex-1">{toolText(tool, rules.tools)}</Body>
            <Small>
              {setUp.steps.filter((s) => s.tool === tool).reduce((n, s) => n + s.operations.length, 0)} places
            </Small>
          </View>
        ))}
      </View>
      <MachineBox job={job} work={work} nth={nth} sheet={sheet} now={now} known={machines.data} />
      <View className="gap-2" testID="sheet-log">
        <Head testID="sheet-state">
          Sheet {sheet.n}: {sheet.state === "waiting" ? "to be made" : sheet.state}
          {sheet.who ? `, ${sheet.who}` : ""}
        </Head>
        {scrapped ? (
          <Small testID="scrapped">
            Sheet {scrapped.n} scrapped: {scrapped.reason}, {scrapped.who}
          </Small>
        ) : null}
        <TickNotes
          waiting={waiting}
          error={error}
          what="entries"
          label="Your name, beside what you say of the sheet"
          testID="card"
        />
        <SheetButtons face={work.face} sheet={sheet} before={scrapped} say={say} />
      </View>
    </View>
  );
}

function SheetButtons({
  face,
  sheet,
  before,
  say,
}: {
  face: string;
  sheet: Sheet;
  before: Sheet | undefined;
  say(said: readonly Said<"sheet">[]): void;
}) {
  const [scrapping, setScrapping] = useState(false);
  const [reason, setReason] = useState<string>(REASONS[0]);
  const [words, setWords] = useState("");
  const said = reason === "other" ? words.trim() : reason;
  const of = sheet.state === "waiting" ? before : sheet;
  const one = { face, sheet: sheet.n };
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2" role="group" aria-label={`Sheet ${sheet.n}`}>
        {sheet.state === "waiting" ? (
          <Button label="Begin" kind="solid" onPress={() => say([{ ...one, what: "begun" }])} testID="sheet-begin" />
        ) : null}
        {sheet.state === "begun" ? (
          <Button label="Done" kind="solid" onPress={() => say([{ ...one, what: "done" }])} testID="sheet-done" />
        ) : null}
        {sheet.state === "begun" || sheet.state === "done" ? (
          <Button label="Scrapped" onPress={() => setScrapping(!scrapping)} pressed={scrapping} testID="sheet-scrap" />
        ) : null}
        {of ? (
          <Button
            label="Undo"
            onPress={() => say(of.said.map((id) => ({ face, sheet: of.n, what: "undone", of: id })))}
            testID="sheet-back"
          />
        ) : null}
      </View>
      {scrapping ? (
        <View className="gap-2">
          <Select label="Why" value={reason} choices={REASONS} choose={setReason} testID="scrap-why" />
          {reason === "other" ? <Field label="In words" value={words} change={setWords} testID="scrap-words" /> : null}
          <View className="flex-row">
            <Button
              label={`Scrap sheet ${sheet.n}, make another`}
              kind="solid"
              disabled={said === ""}
              onPress={() => {
                say([{ ...one, what: "scrapped", reason: said.slice(0, 200) }]);
                setScrapping(false);
              }}
              testID="scrap-now"
            />
          </View>
        </View>
      ) : null}
    </View>
  );
}

/** The program, where it is, and what the machine says of it. */
function MachineBox({
  job,
  work,
  nth,
  sheet,
  now,
  known,
}: {
  job: string;
  work: FaceWork;
  nth: number;
  sheet: Sheet;
  now: MachineNow | undefined;
  known: readonly MachineNow[] | undefined;
}) {
  const send = useSend(job);
  const stop = useStop();
  const mine = sheet.sent.find((s) => s.setUp === nth);
  const its = mine && now?.jobs.find((j) => j.name !== null && j.name === mine.program);
  const program = fileLinks(job, work).find(([id]) => id === `nc-${nth}`)!;
  const others = now?.jobs.filter((j) => j !== its && (j.state === "running" || j.state === "waiting")) ?? [];
  return (
    <Tray className="gap-2 p-3" testID="machine-box">
      <Head>Program</Head>
      <View className="flex-row flex-wrap gap-2">
        <FileLink href={program[2]} label="Download the program" testID="take-program" />
        {now ? (
          <Button
            label={mine && its ? `Send it again to ${now.name}` : `Send it to ${now.name}`}
            kind={mine && its ? "plain" : "solid"}
            disabled={send.isPending || its?.state === "running" || its?.state === "waiting"}
            onPress={() =>
              send.mutate({ id: freshId(), machine: now.name, face: work.face, setUp: nth, sheet: sheet.n })
            }
            testID="send-program"
          />
        ) : null}
      </View>
      {send.error ? <Failed error={send.error} /> : null}
      {stop.error ? <Failed error={stop.error} /> : null}
      {now ? (
        <Small
          testID="machine-state"
          className={now.state === "away" || now.state === "fault" ? "font-medium text-brick" : undefined}
        >
          {stateText(now)}
        </Small>
      ) : known === undefined ? null : (
        <Small testID="machine-state">
          {work.machine} is on no network here: take the program to it. The server is told its address when it is
          started.
        </Small>
      )}
      {its ? (
        <JobLine job={its} away={now!.state === "away"} stop={() => stop.mutate({ machine: now!.name, id: its.id })} />
      ) : null}
      {mine && now && !its && now.state !== "away" ? (
        <Small className="font-medium text-ochre" testID="program-gone">
          {now.name} does not know {mine.program === null ? "the program that was sent" : `program ${mine.program}`}: it
          was started anew, or never took it. Look at the sheet before you send it again.
        </Small>
      ) : null}
      {mine && now?.state === "away" && !its ? (
        <Small className="font-medium text-ochre" testID="program-unsure">
          It was sent to {mine.machine}. Whether it is there is not known until {mine.machine} answers.
        </Small>
      ) : null}
      {others.length > 0 ? (
        <View testID="machine-queue">
          {others.map((j) => (
            <Small key={j.id}>
              {j.state === "running" ? "at work on" : "before or behind it"}: {j.title}
            </Small>
          ))}
        </View>
      ) : null}
    </Tray>
  );
}

function stateText(now: MachineNow): string {
  const heard = now.heardAt === null ? "" : `, last heard ${formatMoment(now.heardAt)}`;
  switch (now.state) {
    case "away":
      return `${now.name} is away: ${now.why ?? "it does not answer"}${heard}. The program can be taken to it by hand.`;
    case "fault":
      return `${now.name} stands still with a fault`;
    case "running":
      return `${now.name} is at work`;
    case "idle":
      return `${now.name} is free`;
  }
}

const WORDS: Record<MachineJob["state"], string> = {
  waiting: "waits in the queue",
  running: "is being made",
  done: "is made",
  fault: "broke off",
  stopped: "was stopped",
};

function JobLine({ job, away, stop }: { job: MachineJob; away: boolean; stop(): void }) {
  const percent = Math.round(job.progress * 100);
  return (
    <View className="gap-1" testID="program-job">
      <Body testID="program-state">
        Program {job.id} {WORDS[job.state]}
        {job.state === "done" ? ` in ${minutesText(job.seconds)}` : `, ${percent} %`}
        {away ? " when it was last heard of" : ""}
      </Body>
      <View
        role="progressbar"
        aria-label={`Program ${job.id}`}
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-2.5 border border-graphite"
      >
        <View className="h-full bg-verdigris" style={{ width: `${percent}%` }} />
      </View>
      {job.fault ? (
        <Small className="font-medium text-brick" testID="program-fault">
          Line {job.fault.line}: {job.fault.text}
        </Small>
      ) : null}
      {job.state === "running" || job.state === "waiting" ? (
        <View className="flex-row">
          <Button label="Stop it" onPress={stop} testID="stop-program" />
        </View>
      ) : null}
    </View>
  );
}
