import type { Attachment } from "@gray-bench/contract/attachments";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { PlacedKind } from "@gray-bench/core/attachments/places";
import { Link } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, TextInput, View } from "react-native";
import ChevronLeft from "lucide-react-native/icons/chevron-left";
import ChevronRight from "lucide-react-native/icons/chevron-right";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { FileLink } from "../kit/FileLink";
import { keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useTokens } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Empty, Failed, Loading } from "../kit/States";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { byText, shownAround, standingOf, thingsOn, type OnPage, type Standing } from "./found";
import { PageDrawing } from "./PageDrawing";
import { fileOf, useAttachments, useFound, usePage } from "./useAttachments";
import { drawnScale, useDocument, useImageSize, usePicture } from "./usePicture";

interface Props {
  job: JobDetail;
  id: string;
  page: string | undefined;
  /** What is chosen. */
  kind: string | undefined;
  of: string | undefined;
}

/** A document or a picture of a job, page by page, with what of the design stands on each. */
export function DocumentPage({ job, id, page, kind, of }: Props) {
  const { data, error, refetch } = useAttachments(job.code);
  if (!data)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the attachments" />;
  const attachment = data.find((a) => a.id === id);
  if (!attachment)
    return (
      <View className="gap-2 p-3">
        <Empty title="It is not attached any more" text="Another one may have taken its place." />
        <LinkLine href={jobHref(job.code, "attachments")} label="All attachments" />
      </View>
    );
  const asked = Number(page ?? "1");
  const count = attachment.pages ?? 1;
  const at = Number.isInteger(asked) && asked >= 1 && asked <= count ? asked : 1;
  return (
    <Opened
      key={id}
      job={job}
      attachments={data}
      attachment={attachment}
      at={at}
      wrong={page !== undefined && at !== asked ? page : null}
      chosen={of && isPlacedKind(kind) ? { kind, of } : null}
    />
  );
}

const isPlacedKind = (kind: string | undefined): kind is PlacedKind => kind !== undefined && kind in WHERE;

interface Chosen {
  kind: PlacedKind;
  of: string;
}

function Opened({
  job,
  attachments,
  attachment,
  at,
  wrong,
  chosen,
}: {
  job: JobDetail;
  attachments: readonly Attachment[];
  attachment: Attachment;
  /** Of the page, counted from 1. */
  at: number;
  /** A page that was asked for and is not there. */
  wrong: string | null;
  chosen: Chosen | null;
}) {
  const wide = useWide();
  const [zoom, setZoom] = useState(1);
  const url = fileOf(job.code, attachment.id);
  const pages = attachment.pages;
  const { data: found } = useFound(job.code);
  const { data: page, error: pageError } = usePage(job.code, attachment, at);
  const { doc, error } = useDocument(pages === null ? null : url);
  const image = useImageSize(pages === null ? url : null);
  const size = pages === null ? image.size : page ? { w: page.w, h: page.h } : null;
  const density = typeof window === "undefined" ? 1 : window.devicePixelRatio;
  const drawn = usePicture(doc, at, size ? drawnScale(zoom * density, size.w, size.h) : 1);
  const things = useMemo(() => (page ? thingsOn(page) : []), [page]);
  const here = things.find((t) => t.kind === chosen?.kind && t.of === chosen.of);
  const box = here?.boxes[0];
  // Where nothing is chosen any more the page stays as it is looked at.
  const show = useMemo(() => box && shownAround(box), [box]);
  const go = (to: number): void => {
    if (to >= 1 && to <= (pages ?? 1)) choose({ page: String(to) });
  };
  useKeys({ PageDown: () => go(at + 1), PageUp: () => go(at - 1) });
  const tap = (tapped: { x: number; y: number } | null): void => {
    const thing = tapped && things.find((t) => t.boxes.some((b) => b.x === tapped.x && b.y === tapped.y));
    choose({ kind: thing?.kind, of: thing?.of });
  };
  const picture = pages === null ? url : drawn.picture;
  const trouble = error ?? pageError ?? drawn.error;
  const drawing =
    image.failed || (trouble && !picture) ? (
      <View className="p-3">
        {trouble ? <Failed error={trouble} /> : <Empty title="It cannot be shown" text="The picture is damaged." />}
      </View>
    ) : size ? (
      <>
        <PageDrawing
          key={at}
          size={size}
          label={`${attachment.name}, page ${at}`}
          picture={picture}
          page={page}
          chosen={here?.boxes ?? []}
          show={show}
          tap={tap}
          zoomed={setZoom}
        />
        {picture ? null : (
          <View className="absolute bottom-2 left-2 bg-paper px-2" role="status" testID="page-drawing">
            <Small>Drawing the page …</Small>
          </View>
        )}
      </>
    ) : (
      <Loading text="Opening the document" />
    );
  const list = (
    <View className="gap-4 p-3" testID="page-things">
      {wrong ? (
        <Small className="text-ochre" testID="page-wrong">
          There is no page {wrong}: it has {pages ?? 1}.
        </Small>
      ) : null}
      {chosen ? (
        <ChosenThing
          job={job.code}
          chosen={chosen}
          standing={standingOf(found, attachments, chosen.kind, chosen.of)}
          document={attachment.id}
          page={at}
        />
      ) : null}
      {pages === null ? (
        <AttachedToText job={job.code} attachment={attachment} />
      ) : page ? (
        <>
          {page.trouble ? <Small className="text-ochre">{page.trouble}</Small> : null}
          <OnThisPage
            things={things}
            chosen={chosen}
            empty={found?.documents.find((d) => d.id === attachment.id)?.pages[at - 1]?.empty ?? false}
          />
          <Doubtful page={page} />
        </>
      ) : null}
      <FileLink href={url} label="Download" testID="document-download" />
    </View>
  );
  return (
    <View className="min-h-0 flex-1" testID="document-page">
      <View className="flex-row flex-wrap items-center gap-2 border-b border-line px-3 py-2">
        <View className={wide ? "min-w-0 flex-1" : "w-full"}>
          <Title numberOfLines={1}>{attachment.name}</Title>
        </View>
        {pages !== null && pages > 1 ? <Pager at={at} count={pages} sheet={page?.sheet ?? ""} go={go} /> : null}
        <LinkLine href={jobHref(job.code, "attachments")} label="All attachments" testID="to-attachments" />
      </View>
      {wide ? (
        <View className="min-h-0 flex-1 flex-row">
          <View className="min-w-0 flex-1">{drawing}</View>
          <ScrollView className="w-85 grow-0 border-l border-line">{list}</ScrollView>
        </View>
      ) : (
        <>
          <View className="h-[52%] border-b border-line">{drawing}</View>
          <ScrollView className="min-h-0 flex-1">{list}</ScrollView>
        </>
      )}
    </View>
  );
}

/** One page on and back, and to any by its number. */
function Pager({ at, count, sheet, go }: { at: number; count: number; sheet: string; go(to: number): void }) {
  const t = useTokens();
  const [typed, setTyped] = useState<string | null>(null);
  const take = (): void => {
    const to = Number(typed);
    setTyped(null);
    if (typed !== null && Number.isInteger(to)) go(Math.min(count, Math.max(1, to)));
  };
  return (
    <View className="flex-row items-center gap-2" role="group" aria-label="Page">
      <Button
        label="Page before"
        bare
        disabled={at <= 1}
        icon={<ChevronLeft size={20} color={t.graphite} />}
        onPress={() => go(at - 1)}
        testID="page-before"
      />
      <TextInput
        value={typed ?? String(at)}
        onChangeText={setTyped}
        onBlur={take}
        onSubmitEditing={take}
        selectTextOnFocus
        inputMode="numeric"
        aria-label={`Page, of ${count}`}
        testID="page-number"
        className="h-touch w-14 rounded-edge border border-slate bg-paper px-2 text-center font-mono text-body text-graphite"
      />
      <Body>
        of {count}
        {sheet !== "" && sheet !== String(at) ? `, sheet ${sheet}` : ""}
      </Body>
      <Button
        label="Next page"
        bare
        disabled={at >= count}
        icon={<ChevronRight size={20} color={t.graphite} />}
        onPress={() => go(at + 1)}
        testID="page-next"
      />
    </View>
  );
}

/** What is chosen: where else it stands, and where the job has it. */
function ChosenThing({
  job,
  chosen: { kind, of },
  standing,
  document,
  page,
}: {
  job: string;
  chosen: Chosen;
  standing: readonly Standing[];
  document: string;
  page: number;
}) {
  return (
    <View className="gap-2 border-l-4 border-verdigris pl-3" testID="chosen-thing">
      <View className="flex-row flex-wrap items-center gap-3">
        <Mono className="font-monoStrong text-name">{kind === "wire" ? `wire ${of}` : of}</Mono>
        <LinkLine href={thingHref(job, kind, of)} label={WHERE[kind]} testID="thing-in-job" />
      </View>
      {standing.length === 0 ? <Small>It stands on no page.</Small> : null}
      <View className="flex-row flex-wrap gap-2" role="list" aria-label="Pages it stands on">
        {standing.map((s) => (
          <View key={`${s.document} ${s.page}`} role="listitem">
            <PageLink job={job} to={s} kind={kind} of={of} now={s.document === document && s.page === page} />
          </View>
        ))}
      </View>
    </View>
  );
}

const WHERE: Readonly<Record<PlacedKind, string>> = {
  device: "In the panel",
  strip: "In the lineups",
  cable: "In the intake",
  wire: "In the routes",
};

/** Leads to a page, with a thing chosen on it. */
export function PageLink({
  job,
  to,
  kind,
  of,
  now = false,
}: {
  job: string;
  to: Standing;
  kind: PlacedKind;
  of: string;
  now?: boolean;
}) {
  return (
    <Link
      href={jobHref(job, `attachments/${to.document}`, { page: String(to.page), kind, of })}
      aria-current={now ? "page" : undefined}
      testID={`sheet-${to.page}`}
      className={`min-h-touch justify-center rounded-edge border px-3 py-2.5 font-text text-body ${now ? "border-verdigris bg-tray text-graphite" : "border-line bg-paper text-harbour underline"}`}
    >
      {`${to.name === "" ? "" : `${to.name}, `}sheet ${to.sheet}${to.note}`}
    </Link>
  );
}

function OnThisPage({ things, chosen, empty }: { things: readonly OnPage[]; chosen: Chosen | null; empty: boolean }) {
  return (
    <View>
      <Head>On this page{things.length === 0 ? "" : ` (${things.length})`}</Head>
      {things.length === 0 ? (
        <Small testID="page-empty">
          {empty
            ? "This page has no text, as a scan has none: nothing can be found on it. Look at it."
            : "Nothing of the design was found here."}
        </Small>
      ) : null}
      <View role="list">
        {things.map((t) => (
          <View key={`${t.kind} ${t.of}`} role="listitem">
            <TapRow
              press={() => choose({ kind: t.kind, of: t.of })}
              on={t.kind === chosen?.kind && t.of === chosen.of}
              testID={`on-page-${t.kind}-${t.of}`}
            >
              <Mono className="min-w-22">{keepTags(t.of)}</Mono>
              <Small className="min-w-0 flex-1">
                {t.kind}
                {t.boxes.length > 1 ? `, ${t.boxes.length} times` : ""}
                {byText(t) === "" ? "" : `, ${byText(t)}`}
              </Small>
            </TapRow>
          </View>
        ))}
      </View>
    </View>
  );
}

const MOST_DOUBTFUL = 50;

/** What on the page looks like a tag, and is nothing of the design or may be several things. */
function Doubtful({ page: { strange, unclear } }: { page: NonNullable<ReturnType<typeof usePage>["data"]> }) {
  if (strange.length + unclear.length === 0) return null;
  return (
    <View className="gap-1" testID="page-doubtful">
      <View className="flex-row items-center gap-1">
        <SeveritySign severity="check" />
        <Head>Not clear</Head>
      </View>
      {unclear.slice(0, MOST_DOUBTFUL).map((u, i) => (
        <Small key={`u${i}`}>
          <Mono>{u.text}</Mono> may be {u.among.slice(0, 4).join(" or ")}
        </Small>
      ))}
      {[...new Set(strange.map((s) => s.text))].slice(0, MOST_DOUBTFUL).map((text) => (
        <Small key={text}>
          <Mono>{text}</Mono> is nothing of the design
        </Small>
      ))}
    </View>
  );
}

function AttachedToText({ job, attachment: { thing, of } }: { job: string; attachment: Attachment }) {
  return thing && of ? (
    <View className="flex-row items-center gap-2">
      <Small>Attached to {thing}</Small>
      <LinkLine href={thingHref(job, thing, of)} label={of} />
    </View>
  ) : (
    <Small>Attached to the whole job.</Small>
  );
}
