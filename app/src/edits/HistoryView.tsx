import type { EditLog } from "@gray-bench/contract/edits";
import { Link } from "expo-router";
import { ScrollView, View } from "react-native";
import { ApiError, jobPath } from "../kit/api";
import { Button, LinkLine } from "../kit/Button";
import { FileLink } from "../kit/FileLink";
import { formatMoment, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { Empty, Failed } from "../kit/States";
import { Body, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { editsOf, useTurn } from "../queries/useEdits";

const MOST_TOUCHED = 8;

/** What was done to a job: sentence, who, when and why, newest first; each can be undone. */
export function HistoryView({
  job,
  log,
  chosen,
  of,
}: {
  job: string;
  log: EditLog;
  chosen: string | undefined;
  /** What was done to this alone. */
  of: string | undefined;
}) {
  const turn = useTurn(job);
  const edits = [...(of === undefined ? log.edits : editsOf(log, of))].reverse();
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
      <Title>{of === undefined ? "History" : keepTags(`History of ${of}`)}</Title>
      <Small>
        The design as received is never changed: edits lie on top of it, in the order they were made. What is undone
        stays listed.
      </Small>
      <View className="flex-row flex-wrap gap-3">
        <FileLink href={`/api${jobPath(job)}/design/file`} label="The design as it is now" testID="design-file" />
        <FileLink href={`/api${jobPath(job)}/design/tables`} label="The same as CSV tables" testID="design-tables" />
        <FileLink href={`/api${jobPath(job)}/edits/file`} label="The edits alone" testID="edits-file" />
        <LinkLine
          href={{ pathname: "/record", params: { job } }}
          label="Record: imports, files sent, stops"
          testID="to-record"
        />
      </View>
      {turn.error ? (
        <View testID="turn-failed" className="gap-1">
          <Failed error={turn.error} />
          {turn.error instanceof ApiError
            ? turn.error.body.standing?.map((line) => <Small key={line}>{keepTags(line)}</Small>)
            : null}
        </View>
      ) : null}
      {of === undefined ? null : (
        <LinkLine href={jobHref(job, "history")} label="All edits of the job" testID="all-edits" />
      )}
      {edits.length === 0 && of !== undefined ? (
        <Empty title={keepTags(`Nothing was done to ${of}`)} text="No edit of this job touched it." />
      ) : edits.length === 0 ? (
        <Empty
          title="Nothing was edited"
          text="The design stands as it was received. Mends are offered beside open points and in the details of a wire."
        />
      ) : null}
      <View role="list" className="gap-2" testID="history">
        {edits.map((e) => (
          <View key={e.id} role="listitem" testID={`edit-${e.id}`}>
            <Tray className={`gap-1 p-3 ${e.id === chosen ? "border-verdigris" : ""}`}>
              <Body className={e.back ? "text-slate line-through" : ""}>{keepTags(e.sentence)}</Body>
              <Small>
                {e.who}, {formatMoment(e.when)}
                {e.why ? `: ${e.why}` : ""}
              </Small>
              {e.back ? (
                <Small>
                  undone by {e.back.who}, {formatMoment(e.back.when)}
                </Small>
              ) : null}
              {e.unfitting ? (
                <Small className="text-brick">does not fit this revision: {e.unfitting.reason}</Small>
              ) : null}
              <View className="flex-row flex-wrap items-center gap-3">
                <Button
                  label={e.back ? "Redo" : "Undo"}
                  disabled={turn.isPending && turn.variables.id === e.id}
                  onPress={() => turn.mutate({ id: e.id, what: e.back ? "again" : "back" })}
                  testID={`turn-${e.id}`}
                />
                {e.touches.slice(0, MOST_TOUCHED).map((t) => (
                  <Link key={`${t.thing} ${t.of}`} href={thingHref(job, t.thing, t.of)} className="min-h-touch py-3">
                    <Mono className="text-harbour underline">{t.of}</Mono>
                  </Link>
                ))}
                {e.touches.length > MOST_TOUCHED ? <Small>and {e.touches.length - MOST_TOUCHED} more</Small> : null}
              </View>
            </Tray>
          </View>
        ))}
      </View>
    </ScrollView>
  );
}
