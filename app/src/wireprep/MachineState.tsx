import type { WireMachineNow } from "@gray-bench/contract/wireprep";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { CodeField } from "../kit/CodeField";
import { Field } from "../kit/Field";
import { formatMoment, formatTotal } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { clockText, minutesText } from "./say";
import { useAtMachine } from "./useBatches";

const FULL_M = "100";

/** How a machine is now: what it waits for, its reel, its magazines, when it is through; and what a person does at it. */
export function MachineState({ machine, name }: { machine: WireMachineNow | undefined; name: string }) {
  const settings = useSettings();
  if (!machine)
    return (
      <View className="gap-1 border border-line p-3" testID="wire-machine">
        <Head>{name}</Head>
        <Small>The server was not told where it is: files are downloaded, and leads are ticked by hand.</Small>
      </View>
    );
  const { state, heardAt, wait, reel, magazines, readyS, file } = machine;
  const low = magazines.filter((m) => m.left < LOW);
  return (
    <View
      className={`gap-2 border p-3 ${state === "waiting" ? "border-2 border-ochre" : "border-line"}`}
      testID="wire-machine"
      role="status"
      aria-label={`${name}: ${state}`}
    >
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <Head testID="wire-machine-state">
          {name}: {state === "waiting" ? "waits" : state}
        </Head>
        {state === "running" || state === "waiting" ? (
          <Small testID="wire-machine-ready">
            {minutesText(readyS / 60)} to go{state === "running" ? `, through at ${clockText(readyS)}` : ""}
          </Small>
        ) : null}
      </View>
      {state === "away" ? (
        <Small className="text-ochre">
          {machine.why}
          {heardAt ? `; last heard of ${formatMoment(heardAt)}` : ""}. What is sent waits here and goes when it is back.
        </Small>
      ) : null}
      {wait ? <Waits key={`${wait.kind} ${wait.what}`} machine={machine} /> : null}
      {file && state !== "idle" ? <Small>at {file}</Small> : null}
      {machine.takes === "leads" ? (
        <Small testID="wire-machine-reel">
          {reel ? `reel ${reel.reel}, ${formatTotal(reel.metres * 1000, settings)} left` : "no reel in it"}
          {magazines.length > 0 ? `; ${magazines.length} magazines` : ""}
          {low.length > 0 ? `, low: ${low.map((m) => `${m.part} ${m.left}`).join(", ")}` : ""}
        </Small>
      ) : null}
    </View>
  );
}

const LOW = 20;

function Waits({ machine }: { machine: WireMachineNow }) {
  const wait = machine.wait!;
  const act = useAtMachine(machine.name);
  const [metres, setMetres] = useState(FULL_M);
  const m = Number(metres.replace(",", "."));
  const busy = act.isPending;
  const off = busy || !(m > 0);
  const mount = (reel: string): void => act.mutate({ what: "reel", body: { reel, metres: m } });
  return (
    <View className="gap-2" testID="machine-waits">
      {wait.kind === "reel" ? (
        <>
          <Body className="font-strong text-lead">
            {wait.out ? "The reel has run out. Mount a fresh one of" : "Mount the reel"}
          </Body>
          <Mono className="font-monoStrong text-figure" testID="wanted-reel">
            {wait.what}
          </Mono>
          <Field label="Metres on it" value={metres} change={setMetres} testID="reel-metres" />
          <CodeField label="Scan or type the code on the reel" id="reel" action="Mounted" disabled={off} take={mount} />
          <Button
            label={`Mounted: ${wait.what} stands on it`}
            disabled={off}
            onPress={() => mount(wait.what)}
            testID="reel-mounted"
          />
        </>
      ) : wait.kind === "magazine" ? (
        <>
          <Body className="font-strong text-lead">Fill the magazine with</Body>
          <Mono className="font-monoStrong text-figure">{wait.what}</Mono>
          <Button
            label="Magazine is filled"
            kind="solid"
            disabled={busy}
            onPress={() => act.mutate({ what: "magazine", body: { part: wait.what } })}
            testID="magazine-filled"
          />
        </>
      ) : wait.kind === "jam" ? (
        <>
          <Body className="font-strong text-lead">A lead is jammed. Clear it; it is made again.</Body>
          <Button
            label="Jam is cleared"
            kind="solid"
            disabled={busy}
            onPress={() => act.mutate({ what: "clear" })}
            testID="jam-cleared"
          />
        </>
      ) : (
        <>
          <Body className="font-strong text-lead">Put in the roll {wait.what} mm²</Body>
          <Button
            label="Roll is in"
            kind="solid"
            disabled={busy}
            onPress={() => act.mutate({ what: "roll" })}
            testID="roll-in"
          />
        </>
      )}
      {act.error ? <Failed error={act.error} /> : null}
    </View>
  );
}
