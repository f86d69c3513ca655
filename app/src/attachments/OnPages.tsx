import type { AttachedTo } from "@gray-bench/contract/attachments";
import type { PlacedKind } from "@gray-bench/core/attachments/places";
import { View } from "react-native";
import { LinkLine } from "../kit/Button";
import { jobHref } from "../kit/links";
import { Body, Small } from "../kit/Text";
import { AttachButton } from "./AttachButton";
import { PageLink } from "./DocumentPage";
import { standingOf } from "./found";
import { useAttachments, useFound } from "./useAttachments";

const MOST_SHEETS = 8;

/** The pages of the schematic on which a thing stands, and what is attached to it. */
export function OnPages({ job, kind, of }: { job: string; kind: PlacedKind & AttachedTo; of: string }) {
  const { data: attachments = [] } = useAttachments(job);
  const { data: found } = useFound(job);
  const standing = standingOf(found, attachments, kind, of);
  const own = attachments.filter((a) => a.gone === null && a.thing === kind && a.of === of);
  return (
    <View className="gap-2" testID="on-pages">
      {found ? (
        <View className="flex-row flex-wrap items-center gap-2" role="group" aria-label="In the schematic">
          <Body className="font-medium">Schematic</Body>
          {standing.length === 0 ? <Small>on no page</Small> : null}
          {standing.slice(0, MOST_SHEETS).map((s) => (
            <PageLink key={`${s.document} ${s.page}`} job={job} to={s} kind={kind} of={of} />
          ))}
          {standing.length > MOST_SHEETS ? <Small>and {standing.length - MOST_SHEETS} more</Small> : null}
        </View>
      ) : null}
      <View className="flex-row flex-wrap items-center gap-3">
        {own.map((a) => (
          <LinkLine
            key={a.id}
            href={jobHref(job, `attachments/${a.id}`)}
            label={a.name}
            testID={`attached-${a.name}`}
          />
        ))}
        <AttachButton job={job} to={{ thing: kind, of }} />
      </View>
    </View>
  );
}
