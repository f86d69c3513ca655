import { PAPER } from "@gray-bench/core/formats/scene";
import { svgText } from "@gray-bench/core/formats/svg";
import type { Design } from "@gray-bench/core/design/model";
import { itemsOf, legendOf } from "@gray-bench/core/panel/items";
import {
  drawnFaces,
  FIGURE_UNITS,
  LAYOUT_DRAWN,
  layoutSheets,
  PAPERS,
  type FigureUnits,
  type LayoutOptions,
  type Paper,
} from "@gray-bench/core/panel/layout-sheets";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { ScrollView, View } from "react-native";
import { choose } from "../kit/choice";
import { FileLink } from "../kit/FileLink";
import { keepTags } from "../kit/format";
import { jobPath } from "../kit/api";
import { Select } from "../kit/Select";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";

const UNIT_WORDS: Record<FigureUnits, string> = { mm: "mm", in: "inches", both: "mm and inches" };
const SCALE_WORDS = { ruler: "as rulers have it", fit: "as large as it goes" } as const;
type Scale = LayoutOptions["scale"];

/** Which sheet is wanted, as the address says it. */
export interface SheetChoice {
  paper?: string;
  units?: string;
  scale?: string;
}

/** The word that was chosen of several, back to what it stands for. */
const meant = <T extends string>(words: Readonly<Record<T, string>>, word: string): T =>
  (Object.keys(words) as T[]).find((key) => words[key] === word)!;

const among = <T extends string>(all: readonly T[], said: string | undefined, otherwise: T): T =>
  all.find((one) => one === said) ?? otherwise;

/** A layout sheet for the bench: how it will look, its legend, and its files. */
export default function LayoutSheets({
  job,
  panel,
  design,
  face,
  choice,
}: {
  job: string;
  panel: PanelResult;
  design: Design;
  face: string | undefined;
  choice: SheetChoice;
}) {
  const settings = useSettings();
  const faces = useMemo(() => drawnFaces(panel), [panel]);
  const items = useMemo(() => itemsOf(panel, design), [panel, design]);
  const on = faces.find((o) => o.face.id === face) ?? faces[0];
  const options = useMemo<LayoutOptions>(
    () => ({
      paper: among(Object.keys(PAPERS) as Paper[], choice.paper, LAYOUT_DRAWN.paper),
      units: among(FIGURE_UNITS, choice.units, design.job.units === "in" ? "in" : LAYOUT_DRAWN.units),
      scale: among<Scale>(["ruler", "fit"], choice.scale, LAYOUT_DRAWN.scale),
      who: settings.name,
      date: new Date().toLocaleDateString("sv-SE"),
    }),
    [choice.paper, choice.units, choice.scale, design.job.units, settings.name],
  );
  const picture = useMemo(() => {
    if (!on) return null;
    const { code, title, revision } = design.job;
    const [sheet] = layoutSheets(on, items, { job: code, title, revision }, options);
    return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(sheet!))}`;
  }, [on, items, design.job, options]);
  if (!on)
    return (
      <Empty title="Nothing to draw" text="No face carries a device, a rail or a duct yet. Place something first." />
    );
  const legend = legendOf(items, on.face.id);
  const href = (as: string): string =>
    `/api${jobPath(job)}/stages/panel/drawing?${new URLSearchParams({ face: on.face.id, as, ...options }).toString()}`;
  return (
    <ScrollView className="min-h-0 flex-1" testID="layout-sheets">
      <View className="flex-row flex-wrap gap-3 p-3" role="group" aria-label="The sheet">
        <Select
          label="Face"
          value={on.face.id}
          choices={faces.map((o) => o.face.id)}
          choose={(value) => choose({ face: value })}
          testID="layout-face"
        />
        <Select
          label="Sheet"
          value={options.paper}
          choices={Object.keys(PAPERS)}
          choose={(value) => choose({ paper: value })}
          testID="layout-paper"
        />
        <Select
          label="Figures in"
          value={UNIT_WORDS[options.units]}
          choices={Object.values(UNIT_WORDS)}
          choose={(value) => choose({ units: meant(UNIT_WORDS, value) })}
          testID="layout-units"
        />
        <Select
          label="Scale"
          value={SCALE_WORDS[options.scale]}
          choices={Object.values(SCALE_WORDS)}
          choose={(value) => choose({ scale: meant<Scale>(SCALE_WORDS, value) })}
          testID="layout-scale"
        />
      </View>
      <View className="flex-row flex-wrap gap-2 px-3 pb-3">
        <FileLink href={href("pdf")} label="Drawing and legend, PDF" testID="layout-pdf" />
        <FileLink href={href("svg")} label="Drawing, SVG" testID="layout-svg" />
        <FileLink href={href("dxf")} label="DXF at 1:1" testID="layout-dxf" />
      </View>
      <img
        src={picture!}
        data-testid="layout-picture"
        alt={`Layout of ${on.face.id} with ${legend.length} items, figures in ${UNIT_WORDS[options.units]}`}
        style={{ width: "100%", background: PAPER }}
      />
      <View className="p-3">
        <Head>Legend of {keepTags(on.face.id)}</Head>
      </View>
      <View className="gap-1 px-3 pb-3" role="list" aria-label={`Legend of ${on.face.id}`}>
        {legend.map(({ item, tags }) => (
          <View
            key={item.number}
            role="listitem"
            className="flex-row gap-3 border-b border-line py-2"
            testID={`legend-${item.number}`}
          >
            <Mono className="w-glove">{item.number}</Mono>
            <View className="min-w-0 flex-1">
              <Body>
                {tags.length} × {item.text}
                {item.texts.some((t) => t !== "") ? `, “${item.texts.filter((t) => t !== "").join(" / ")}”` : ""}
              </Body>
              <Small>
                {item.part}
                {item.maker === "" ? "" : `, ${item.maker}`}
              </Small>
              <Mono>{keepTags(tags.join(", "))}</Mono>
            </View>
          </View>
        ))}
      </View>
    </ScrollView>
  );
}
