import type { SourceList } from "@gray-bench/contract/intake";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { IntakeResult } from "@gray-bench/core/intake/result";
import { useMutation } from "@tanstack/react-query";
import { router, type Href } from "expo-router";
import { ScrollView, View } from "react-native";
import { useState } from "react";
import type { Act } from "@gray-bench/core/frame/act";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import { usePutBack, type Outcome } from "../queries/useEdits";
import { Button, LinkLine } from "../kit/Button";
import { FileLink } from "../kit/FileLink";
import { formatDate, formatLength, formatSize } from "../kit/format";
import { jobHref } from "../kit/links";
import { Counts } from "../kit/Severity";
import { useSettings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { LackingParts } from "../library/LackingParts";
import { TakeLibrary } from "../library/TakeLibrary";
import { KIND_WORDS } from "./matchingActs";
import { NetworkTray, type Opened } from "./NetworkTray";
import { addOptionAct, optionActs } from "@gray-bench/core/intake/option-acts";
import { beginArrival, useSources } from "../queries/useArrival";
import { countPoints } from "@gray-bench/core/design/open-points";
import { NET_CLASSES, type Colour, type NetClass } from "@gray-bench/core/design/model";

/** What came in with the design file. */
export function IntakeView({
  job,
  intake,
  opened,
  parts,
}: {
  job: JobDetail;
  intake: IntakeResult;
  opened: Opened;
  /** Parts that lack something are listed. */
  parts: boolean;
}) {
  const settings = useSettings();
  const left = intake.leftOut;
  const [told, setTold] = useState<Outcome | null>(null);
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
      <Title>Intake</Title>
      <Small>
        Revision {job.revision}, imported {formatDate(job.importedAt)}
      </Small>
      {job.revisions.length > 1 ? <RevisionsTray job={job} /> : null}
      <SourcesTray job={job.code} />
      <LinkLine href={jobHref(job.code, "attachments")} label="Schematic and attachments" testID="to-attachments" />
      {job.libraryNewer ? <TakeLibrary job={job} /> : null}
      <LackingParts job={job.code} shown={parts} />
      <NetworkTray job={job.code} {...opened} />
      <Tray className="p-3">
        <Head>What the design holds</Head>
        <View role="list" className="flex-row flex-wrap">
          {Object.entries(intake.counts).map(([name, n]) => (
            <View key={name} role="listitem" className="w-1/2 flex-row gap-2 py-1 md:w-1/3">
              <Mono className="w-14 text-right">{n}</Mono>
              <Body>{name}</Body>
            </View>
          ))}
        </View>
      </Tray>
      <Tray className="gap-1 p-3">
        <Head>Enclosures</Head>
        {job.enclosures.length === 0 ? (
          <Small>There is none yet: lengths, holes and temperatures wait for the layout of the design.</Small>
        ) : null}
        {job.enclosures.map((e) => (
          <View key={e.tag} className="flex-row flex-wrap gap-2">
            <Mono>{e.tag}</Mono>
            <Body>
              {e.text} {formatLength(e.w, settings)} × {formatLength(e.h, settings)} × {formatLength(e.d, settings)}
            </Body>
          </View>
        ))}
      </Tray>
      <Tray className="gap-1 p-3" testID="options">
        <Head>Options</Head>
        <Told outcome={told} testID="option-told" />
        {job.options.length === 0 ? <Small>This design has no options.</Small> : null}
        {job.options.map((o) => (
          <View key={o.key} className="flex-row flex-wrap items-center gap-2">
            <Body className="min-w-55 flex-1">
              {o.text}: {o.chosen} <Small>of {o.choices.join(", ")}</Small>
            </Body>
            <Acts
              job={job.code}
              acts={optionActs(o)}
              label={`Option ${o.text}`}
              about={o.key}
              laid={setTold}
              testID="option"
            />
          </View>
        ))}
        <Acts
          job={job.code}
          acts={[addOptionAct(job.options)]}
          label="Change the options"
          about="a new option"
          laid={setTold}
          testID="option"
        />
        {left.devices + left.wires + left.cables > 0 ? (
          <Small>
            Left out with these choices: {left.devices} devices, {left.wires} wires, {left.cables} cables.
          </Small>
        ) : null}
      </Tray>
      <Tray className="gap-2 p-3" testID="classes">
        <Head>Colour and size by class</Head>
        <Small>
          For wires that have none of their own and none of their net; the shop's count where nothing stands.
        </Small>
        {NET_CLASSES.map((cls) => {
          const own = job.rules.classes?.[cls];
          return (
            <View key={cls} className="flex-row flex-wrap items-center gap-3 border-t border-line pt-2">
              <Body className="w-20 font-medium">{cls}</Body>
              <Body className="flex-1">
                {own
                  ? `${own.colour ?? "the shop's colour"}, ${own.sizeMm2 ? formatSize(own.sizeMm2, settings) : "the shop's size"}`
                  : "as the shop has it"}
              </Body>
              <Acts job={job.code} acts={[classAct(cls, own)]} label={`Class ${cls}`} about={cls} />
            </View>
          );
        })}
      </Tray>
      <Tray className="gap-1 p-3">
        <Head>Found while reading</Head>
        <Counts open={countPoints(intake.open)} />
        <LinkLine href={jobHref(job.code, "open-points")} label="All open points" />
      </Tray>
    </ScrollView>
  );
}

const classAct = (cls: NetClass, own: { colour?: Colour; sizeMm2?: number } | undefined): Act => ({
  id: `class-${cls}`,
  label: "Change",
  title: `Class ${cls}`,
  about: `Counts for every wire of class ${cls} in this job that has none of its own and none of its net.`,
  kind: "set class",
  payloads: [{ class: cls }],
  asks: [
    { field: "colour", label: "Colour", as: "colour", optional: true, ...(own?.colour ? { now: own.colour } : {}) },
    {
      field: "sizeMm2",
      label: "Cross-section",
      as: "size",
      optional: true,
      ...(own?.sizeMm2 ? { now: own.sizeMm2 } : {}),
    },
  ],
});

/** The revisions that were imported, newest first; one before can be put back, with the edits on top. */
function RevisionsTray({ job }: { job: JobDetail }) {
  const back = usePutBack(job.code);
  const [asked, setAsked] = useState<string | null>(null);
  return (
    <Tray className="gap-2 p-3" testID="revisions">
      <Head>Revisions</Head>
      {back.error ? <Failed error={back.error} /> : null}
      <Told outcome={back.data ?? null} testID="revision-told" />
      <View role="list" className="gap-2">
        {job.revisions.map(({ revision, importedAt }) => (
          <View key={revision} role="listitem" className="flex-row flex-wrap items-center gap-2">
            <Mono className="min-w-10">{revision}</Mono>
            <Body>imported {formatDate(importedAt)}</Body>
            {revision === job.revision ? (
              <Small>counts now</Small>
            ) : asked === revision ? (
              <>
                <Small className="min-w-50 flex-1">
                  All edits are laid on it; what does not fit becomes an open point. {job.revision} stays here and can
                  be put back the same way.
                </Small>
                <Button
                  label={`Put ${revision} back`}
                  disabled={back.isPending}
                  onPress={() => back.mutate(revision, { onSettled: () => setAsked(null) })}
                  testID={`put-back-${revision}-now`}
                />
                <Button label="Cancel" onPress={() => setAsked(null)} />
              </>
            ) : (
              <Button
                label={`Put ${revision} back`}
                onPress={() => setAsked(revision)}
                testID={`put-back-${revision}`}
              />
            )}
          </View>
        ))}
      </View>
    </Tray>
  );
}

/** The files it was made of, and bringing new ones of them. */
function SourcesTray({ job }: { job: string }) {
  const { data, error } = useSources(job);
  const begin = useMutation({
    mutationFn: () => beginArrival(job),
    onSuccess: ({ id }) => router.push(`/arrivals/${id}` as Href),
  });
  if (error) return <Failed error={error} />;
  if (!data || data.length === 0) return null;
  return (
    <Tray className="gap-2 p-3" testID="sources">
      <Head>Files it was made of</Head>
      {data.map((s) => (
        <View key={s.revision} role="list" className="gap-1" aria-label={`Files of revision ${s.revision}`}>
          <Small>Revision {s.revision}</Small>
          {s.files.map((f) => (
            <View key={f.file} role="listitem" className="flex-row flex-wrap items-center gap-x-3">
              <FileLink
                href={`/api/jobs/${encodeURIComponent(job)}/sources/${f.file}`}
                label={f.name}
                testID={`source-${f.name}`}
              />
              <Small>{sourceText(f)}</Small>
            </View>
          ))}
        </View>
      ))}
      {begin.error ? <Failed error={begin.error} /> : null}
      <View className="items-start gap-1">
        <Button
          label="Bring new files"
          disabled={begin.isPending}
          onPress={() => begin.mutate()}
          testID="sources-new"
        />
        <Small>
          It begins with these files as they were read. What they change is shown before anything is taken over.
        </Small>
      </View>
    </Tray>
  );
}

/** What a file told. */
const sourceText = ({ tables, said }: SourceList["files"][number]): string =>
  said
    ? said.views.map((v) => `${v.enclosure} ${v.face}`).join(" · ") || "no face of it"
    : tables.map((t) => (t.matching ? KIND_WORDS[t.matching.kind] : "left out")).join(" · ");
