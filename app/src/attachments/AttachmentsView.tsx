import type { Attachment, JobFound } from "@gray-bench/contract/attachments";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { ReactNode } from "react";
import { useState } from "react";
import { useDropzone } from "react-dropzone";
import { Link } from "expo-router";
import { ScrollView, View } from "react-native";
import Paperclip from "lucide-react-native/icons/paperclip";
import Trash from "lucide-react-native/icons/trash";
import { Button, LinkLine } from "../kit/Button";
import { FileLink } from "../kit/FileLink";
import { formatCount, formatMoment, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useTokens } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { fileOf, useAttach, useAttachments, useFound } from "./useAttachments";

/** The files kept with a job, and how what they say goes with the design. */
export function AttachmentsView({ job }: { job: JobDetail }) {
  const t = useTokens();
  const { data, error, refetch } = useAttachments(job.code);
  const found = useFound(job.code);
  const { add, turn } = useAttach(job.code);
  const [off, setOff] = useState<Attachment | null>(null);
  const zone = useDropzone({
    onDrop: (files) => {
      if (zone.inputRef.current) zone.inputRef.current.value = "";
      if (files.length > 0) add.mutate({ files, to: null });
    },
    noClick: true,
    noKeyboard: true,
  });
  if (!data)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the attachments" />;
  const there = data.filter((a) => a.gone === null);
  const gone = data.filter((a) => a.gone !== null);
  const documents = there.filter((a) => a.pages !== null);
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
      <div {...zone.getRootProps()} data-testid="attach-drop">
        <View className={`gap-3 ${zone.isDragActive ? "bg-tray" : ""}`}>
          <Title>Attachments</Title>
          <input
            {...zone.getInputProps({ "aria-label": "Files to attach to the job" })}
            data-testid="attach-job-input"
          />
          <View className="flex-row flex-wrap items-center gap-3">
            <Button
              kind={there.length === 0 ? "solid" : "plain"}
              label={add.isPending ? "Reading …" : "Attach files"}
              disabled={add.isPending}
              icon={<Paperclip size={18} color={there.length === 0 ? t.onVerdigris : t.graphite} />}
              onPress={zone.open}
              testID="attach-job"
            />
            <Small className="min-w-50 flex-1">
              {zone.isDragActive
                ? "Let go to attach them."
                : "The schematic as PDF, pictures as PNG, JPEG or WebP; or drop them here. One of the same name takes the place of the one that is there."}
            </Small>
          </View>
          {add.error ? <Failed error={add.error} /> : null}
          {turn.error ? <Failed error={turn.error} /> : null}
          {off ? (
            <View role="status" className="flex-row flex-wrap items-center gap-2 border-l-4 border-harbour pl-3">
              <Body className="min-w-50 flex-1">{off.name} was taken off.</Body>
              <Button
                label="Undo"
                onPress={() => turn.mutate({ id: off.id, gone: false }, { onSuccess: () => setOff(null) })}
                testID="attach-undo"
              />
            </View>
          ) : null}
          {there.length === 0 ? (
            <Empty
              title="Nothing is attached"
              text="With the schematic here, every device, wire and terminal leads to its page, and every tag on a page to its thing."
            />
          ) : (
            <Tray>
              <View role="list" testID="attachments">
                {there.map((a) => (
                  <AttachmentRow
                    key={a.id}
                    job={job.code}
                    attachment={a}
                    act={
                      <Button
                        label={`Delete ${a.name}`}
                        bare
                        icon={<Trash size={18} color={t.graphite} />}
                        onPress={() => turn.mutate({ id: a.id, gone: true }, { onSuccess: () => setOff(a) })}
                        testID={`attachment-${a.name}-off`}
                      />
                    }
                  />
                ))}
              </View>
            </Tray>
          )}
        </View>
      </div>
      {found.error ? <Failed error={found.error} retry={() => void found.refetch()} /> : null}
      {documents.length > 0 && !found.data && !found.error ? <Loading text="Looking for tags on the pages" /> : null}
      {found.data && found.data.documents.length < documents.length ? (
        <Small className="text-ochre">
          Only {found.data.documents.length} of {documents.length} documents are searched, in the order of their names.
        </Small>
      ) : null}
      {found.data ? <Findings job={job.code} found={found.data} /> : null}
      {gone.length > 0 ? (
        <Tray className="gap-1 p-3" testID="attachments-gone">
          <Head>Taken off of late</Head>
          <Small>For 30 days they can be put back.</Small>
          {gone.map((a) => (
            <View key={a.id} className="flex-row flex-wrap items-center gap-3 border-t border-line py-1">
              <Body className="min-w-40 flex-1">
                {a.name}
                {a.of === null ? "" : `, of ${a.of}`}, {formatMoment(a.gone!)}
              </Body>
              <Button
                label="Put back"
                onPress={() => turn.mutate({ id: a.id, gone: false }, { onSuccess: () => setOff(null) })}
                testID={`attachment-${a.name}-back`}
              />
            </View>
          ))}
        </Tray>
      ) : null}
    </ScrollView>
  );
}

function AttachmentRow({ job, attachment, act }: { job: string; attachment: Attachment; act: ReactNode }) {
  const { id, name, thing, of, pages, empty, bytes, at, who } = attachment;
  return (
    <View role="listitem" className="flex-row flex-wrap items-center gap-x-3 border-b border-line px-3 py-1">
      <View className="min-w-50 flex-1">
        <Link
          href={jobHref(job, `attachments/${id}`)}
          testID={`attachment-${name}`}
          className="min-h-9 break-words pt-2 font-medium text-body text-harbour underline"
        >
          {name}
        </Link>
        <Small>
          {pages === null ? "picture" : `${formatCount(pages)} ${pages === 1 ? "page" : "pages"}`}
          {empty > 0 ? `, ${formatCount(empty)} without text` : ""}, {sizeText(bytes)}, {formatMoment(at)}
          {who === null ? "" : `, ${who}`}
        </Small>
      </View>
      {thing && of ? <LinkLine href={thingHref(job, thing, of)} label={keepTags(of)} /> : null}
      <View className="flex-row items-center gap-2">
        <FileLink href={fileOf(job, id)} label="Download" testID={`attachment-${name}-file`} />
        {act}
      </View>
    </View>
  );
}

const sizeText = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

const MOST_LISTED = 100;

/** What of the design the documents show, and where the two do not agree. */
function Findings({ job, found }: { job: string; found: JobFound }) {
  const { nowhere, strange, unclear, documents, things } = found;
  const devices = things.filter((t) => t.kind === "device" && t.at.some((a) => a.times > 0)).length;
  const wires = things.filter((t) => t.kind === "wire" && t.at.some((a) => a.times > 0)).length;
  const sheet = (document: string, page: number): string =>
    documents.find((d) => d.id === document)?.pages[page - 1]?.sheet || String(page);
  const pageHref = (document: string, page: number) => jobHref(job, `attachments/${document}`, { page: String(page) });
  return (
    <Tray className="gap-3 p-3" testID="findings">
      <View>
        <Head>Design and documents</Head>
        <Small>
          {formatCount(devices)} devices and terminals, {formatCount(wires)} wires were found on pages.
        </Small>
      </View>
      {strange.length > 0 ? (
        <View className="gap-1" testID="findings-strange">
          <Doubt title={`On pages, but not in the design (${formatCount(strange.length)})`} />
          <View className="flex-row flex-wrap gap-x-4">
            {strange.slice(0, MOST_LISTED).map((s) => (
              <LinkLine
                key={s.text}
                href={pageHref(s.document, s.page)}
                label={`${keepTags(s.text)}, sheet ${sheet(s.document, s.page)}`}
              />
            ))}
          </View>
        </View>
      ) : null}
      {unclear.length > 0 ? (
        <View className="gap-1" testID="findings-unclear">
          <Doubt title={`May be several things (${formatCount(unclear.length)})`} />
          {unclear.slice(0, MOST_LISTED).map((u) => (
            <View key={u.text} className="flex-row flex-wrap items-center gap-x-2">
              <LinkLine
                href={pageHref(u.document, u.page)}
                label={`${keepTags(u.text)}, sheet ${sheet(u.document, u.page)}`}
              />
              <Small>{u.among.slice(0, 4).join(" or ")}</Small>
            </View>
          ))}
        </View>
      ) : null}
      {nowhere.length > 0 ? (
        <View className="gap-1" testID="findings-nowhere">
          <Doubt title={`In the design, but on no page (${formatCount(nowhere.length)})`} />
          <View className="flex-row flex-wrap gap-x-4">
            {nowhere.slice(0, MOST_LISTED).map((tag) => (
              <LinkLine key={tag} href={thingHref(job, "device", tag)} label={keepTags(tag)} />
            ))}
          </View>
          {nowhere.length > MOST_LISTED ? <Small>and {formatCount(nowhere.length - MOST_LISTED)} more</Small> : null}
        </View>
      ) : null}
      {strange.length + unclear.length + nowhere.length === 0 ? (
        <Body>Every device stands on a page, and every tag on a page is one of the design.</Body>
      ) : null}
    </Tray>
  );
}

const Doubt = ({ title }: { title: string }) => (
  <View className="flex-row items-center gap-1">
    <SeveritySign severity="check" />
    <Mono className="font-medium text-cell">{title}</Mono>
  </View>
);
