import type { ImportOutlook } from "@gray-bench/contract/jobs";
import { router, type Href } from "expo-router";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useDropzone } from "react-dropzone";
import { View } from "react-native";
import Upload from "lucide-react-native/icons/upload";
import { Changes, Unfitting } from "../edits/Outlook";
import { addFile, beginArrival, dropArrival } from "../queries/useArrival";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { jobHref } from "../kit/links";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { TextOut } from "../kit/TextOut";
import { useTokens } from "../kit/settings";
import { faultText } from "./faultText";
import { useImport, useImportOutlook } from "../queries/useJobs";
import { useReading } from "../busy/reading";

/** Takes a design file, or the tables of one, by picker or by dropping them, and shows why one is refused. */
export function ImportTray() {
  const t = useTokens();
  const take = useImport();
  const [name, setName] = useState("");
  const [already, setAlready] = useState<{ code: string; revision: string } | null>(null);
  const look = useImportOutlook();
  const [asked, setAsked] = useState<{ file: File; outlook: ImportOutlook } | null>(null);
  const giveUp = useRef(new AbortController());
  const [left, setLeft] = useState<string | null>(null);
  const client = useQueryClient();
  const reading = useReading();
  const leave = (): void => {
    giveUp.current.abort();
    // While it is looked at nothing is stored; after that it may have been stored just now.
    setLeft(
      `Reading ${name} was stopped. ${take.isPending ? "If it had been read already, its job is in the list." : "Nothing was imported."}`,
    );
    look.reset();
    take.reset();
    tables.reset();
    void client.invalidateQueries({ queryKey: ["jobs"] });
  };
  const store = (file: File): void => {
    setAsked(null);
    const stored = take.mutateAsync(
      { file, signal: giveUp.current.signal },
      {
        onSuccess: (reply) => (reply.already ? setAlready(reply.job) : router.push(jobHref(reply.job.code))),
      },
    );
    reading.follow(
      file.name,
      giveUp.current,
      stored.then(({ job }) => jobHref(job.code)),
    );
  };
  const tables = useMutation({
    mutationFn: async ({ files, signal }: { files: File[]; signal: AbortSignal }) => {
      let arrival = await beginArrival(null);
      try {
        for (const file of files) arrival = await addFile(arrival.id, file, signal);
      } catch (error) {
        // What was read before the one that is refused is not lost: it is among the files that are not a job yet.
        if (arrival.tables.length + arrival.drawings.length + arrival.attachments.length === 0)
          await dropArrival(arrival);
        void client.invalidateQueries({ queryKey: ["arrivals"] });
        throw error;
      }
      return arrival.id;
    },
    onSuccess: (id) => router.push(`/arrivals/${id}` as Href),
  });
  const open = (files: File[]) => {
    const file = files[0];
    if (!file) return;
    // The same file may be opened again, and only what is chosen then counts.
    if (zone.inputRef.current) zone.inputRef.current.value = "";
    setName(files.length === 1 ? file.name : `${files.length} files`);
    setAlready(null);
    setAsked(null);
    setLeft(null);
    take.reset();
    tables.reset();
    giveUp.current = new AbortController();
    const designs = files.filter(isDesign);
    if (designs.length < files.length) {
      look.reset();
      if (designs.length > 0)
        setLeft(`${designs[0]!.name} is a design file: open it by itself. Nothing was read of the others either.`);
      else
        reading.follow(
          files.length === 1 ? file.name : `${files.length} files`,
          giveUp.current,
          tables.mutateAsync({ files, signal: giveUp.current.signal }).then((id) => `/arrivals/${id}` as Href),
        );
      return;
    }
    if (files.length > 1) {
      look.reset();
      setLeft("Open one design file at a time. Nothing was read.");
      return;
    }
    look.mutate(
      { file, signal: giveUp.current.signal },
      {
        // A new revision is shown before it replaces the one that is there; all else has nothing to be asked.
        onSuccess: (outlook) =>
          outlook.replaces !== null && !outlook.already && !outlook.taken ? setAsked({ file, outlook }) : store(file),
      },
    );
  };
  const busy = take.isPending || look.isPending || tables.isPending;
  const failed = look.error ?? take.error ?? (giveUp.current.signal.aborted ? null : tables.error);
  const zone = useDropzone({ onDrop: open, noClick: true, noKeyboard: true });
  return (
    <div {...zone.getRootProps()} data-testid="drop">
      <View
        className={`gap-2 rounded-edge border border-dashed p-3 ${zone.isDragActive ? "border-verdigris bg-tray" : "border-slate"}`}
      >
        <input
          {...zone.getInputProps({ "aria-label": "Design file, or tables, drawings and the schematic of a design" })}
          data-testid="file-input"
        />
        <View className="flex-row flex-wrap items-center gap-3">
          <Button
            kind="solid"
            testID="open-file"
            label={busy ? "Reading …" : "Open a design"}
            disabled={busy}
            icon={<Upload size={18} color={t.onVerdigris} />}
            onPress={zone.open}
          />
          {busy ? <Button label="Stop reading" onPress={leave} testID="stop-reading" /> : null}
          <Small className="flex-1">
            {zone.isDragActive
              ? "Let go to open it."
              : "or drop it here: tables of devices and connections (CSV, XLSX), layouts (DXF), the schematic (PDF), several at once, or a design that ends in .bench.json or .tables.zip"}
          </Small>
        </View>
        {left ? (
          <View role="status" testID="left">
            <Body>{left}</Body>
          </View>
        ) : null}
        {already ? (
          <View role="status" testID="already">
            <Body>
              {name} is the same design that job {already.code} already has. Nothing was changed.
              {look.data && look.data.revision !== already.revision
                ? ` Revision ${already.revision} counts there; ${look.data.revision} can be put back in its intake.`
                : ""}
            </Body>
          </View>
        ) : null}
        {asked ? <Revision {...asked} take={() => store(asked.file)} leave={() => setAsked(null)} /> : null}
        {failed ? <Refusal name={name} error={failed} /> : null}
      </View>
    </div>
  );
}

/** By what it is called: all else is a table, or is refused as none. */
const isDesign = (file: File): boolean => /\.(json|zip)$/i.test(file.name);

/** What a new revision brings, before it is taken over. */
function Revision({ outlook: o, take, leave }: { outlook: ImportOutlook; take(): void; leave(): void }) {
  return (
    <View testID="revision" role="status" className="gap-2 border-l-4 border-harbour pl-3">
      <Head>
        {o.code}: revision {o.revision} would replace {o.replaces}
      </Head>
      <Changes things={o.things} />
      <Unfitting edits={o.unfitting} />
      <View className="flex-row flex-wrap gap-2">
        <Button kind="solid" label={`Take revision ${o.revision} over`} onPress={take} testID="revision-take" />
        <Button label="Cancel" onPress={leave} testID="revision-leave" />
      </View>
    </View>
  );
}

function Refusal({ name, error }: { name: string; error: Error }) {
  if (!(error instanceof ApiError) || !error.body.faults) return <Failed error={error} />;
  const { faults, faultCount = faults.length, remedy, message } = error.body;
  return (
    <View role="alert" testID="refusal" className="gap-2 border-l-4 border-brick pl-3">
      <Head>{name}</Head>
      <Body>{message}</Body>
      <Small>{remedy}</Small>
      <TextOut
        text={faultText(name, error.body)}
        fileName={`${name.replace(/(\.bench)?\.json$/, "")}-faults.txt`}
        title={`${name} was refused`}
      />
      <View role="list">
        {faults.map((f, i) => (
          <View key={i} role="listitem" className="border-t border-line py-2">
            <Mono className="break-all">{f.path}</Mono>
            <Body>found {f.found}</Body>
            <Small>expected {f.expected}</Small>
          </View>
        ))}
      </View>
      {faultCount > faults.length ? <Small>and {faultCount - faults.length} more</Small> : null}
    </View>
  );
}
