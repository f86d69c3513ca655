import type { MetalworkRules } from "@gray-bench/core/metalwork/rules";
import type { Design } from "@gray-bench/core/design/model";
import { THICKNESS_MM } from "@gray-bench/core/metalwork/on-machine";
import type { FaceWork } from "@gray-bench/core/metalwork/result";
import { seenText, TURN_TEXT } from "@gray-bench/core/metalwork/say";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { jobPath } from "../kit/api";
import { FileLink } from "../kit/FileLink";
import { formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Body, Head, Small } from "../kit/Text";
import { addHoleActs, areaActs, fixingAct, sheetAct } from "@gray-bench/core/metalwork/acts";

/** What is known of a sheet, what a person decides about it, and what it is taken away as. */
export function FaceSheet({
  job,
  work,
  design,
  rules,
  laid,
}: {
  job: string;
  work: FaceWork;
  design: Design;
  rules: MetalworkRules;
  laid(outcome: Outcome): void;
}) {
  const settings = useSettings();
  const own = design.faces.find((f) => `${f.enclosure}/${f.kind}` === work.face);
  const about = work.face;
  return (
    <View className="gap-3 p-3" testID="face-sheet">
      <View>
        <Head>{work.face}</Head>
        <Body>
          {formatLength(work.w, settings)} × {formatLength(work.h, settings)},{" "}
          {work.thicknessMm === null
            ? `thickness not stated, taken as ${formatLength(THICKNESS_MM, settings)}`
            : `${formatLength(work.thicknessMm, settings)} thick`}
          {work.material === null ? "" : `, ${work.material}`}
        </Body>
        <Body testID="sheet-seen">
          Drilled as seen from {seenText(work)}
          {work.machine === null ? ", on no machine" : ` on ${work.machine}`}
          {work.turn === 0 ? "" : `, ${TURN_TEXT[work.turn]}`}
          {work.setUps.length > 1 ? `, in ${work.setUps.length} set-ups` : ""}
        </Body>
      </View>
      <Acts job={job} acts={[sheetAct(work, own, rules)]} label="Sheet" about={about} laid={laid} testID="sheet" />
      <Head>Download</Head>
      <View className="flex-row flex-wrap gap-2" role="group" aria-label={`Files of ${work.face}`}>
        {fileLinks(job, work).map(([id, label, href]) => (
          <FileLink key={id} href={href} label={label} testID={`take-${id}`} />
        ))}
      </View>
      <Head>Own holes</Head>
      <Acts job={job} acts={addHoleActs(work.face)} label="Own holes" about={about} laid={laid} testID="own" />
      <Head>Keep-outs and entry plates</Head>
      <Acts job={job} acts={areaActs(work.face, own)} label="Areas" about={about} laid={laid} testID="area" />
      {work.notDrilled.length > 0 ? (
        <View className="gap-2" testID="not-drilled">
          <Head>Not drilled here</Head>
          {work.notDrilled.map((n) => (
            <View key={n.of} className="flex-row flex-wrap items-center gap-3">
              <Small className="min-w-0 flex-1">
                {n.of}: {n.holes} holes
              </Small>
              <Acts job={job} acts={[fixingAct(n, design)]} label={n.of} about={n.of} laid={laid} testID="off" />
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}

/** Each as it is made for this face alone. */
export function fileLinks(job: string, work: FaceWork): [id: string, label: string, href: string][] {
  const of = (more: Record<string, string>): string =>
    `/api${jobPath(job)}/stages/metalwork/drawing?${new URLSearchParams({ face: work.face, ...more }).toString()}`;
  return [
    ["pdf", "Drawing and hole table, PDF", of({ as: "pdf" })],
    ["full", "1:1 for drilling through paper, PDF", of({ as: "pdf", full: "true" })],
    ["dxf", "DXF", of({ as: "dxf" })],
    ["svg", "Drawing, SVG", of({ as: "svg" })],
    ...work.setUps.map((_, i): [string, string, string] => [
      `nc-${i + 1}`,
      work.setUps.length > 1 ? `Program of set-up ${i + 1}` : "Program",
      of({ as: "nc", setUp: String(i + 1) }),
    ]),
  ];
}
