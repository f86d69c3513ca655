import type { JobDetail } from "@gray-bench/contract/jobs";
import { coloursOf } from "@gray-bench/core/wiring/landings";
import type { Crossing, Design } from "@gray-bench/core/design/model";
import type { Rules } from "@gray-bench/core/shop/rules";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { PieceEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { lookUp } from "@gray-bench/core/design/lookup";
import { mapBy } from "@gray-bench/core/design/order";
import { router } from "expo-router";
import { memo, useCallback, useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Drawing } from "../kit/drawing/Drawing";
import { Labels } from "../sheet/Labels";
import { Marked } from "../kit/drawing/Marked";
import { Arrange } from "../sheet/Arrange";
import { onSheet, PanelLayer } from "../sheet/PanelLayer";
import { SignLayer } from "../sheet/SignLayer";
import { around, firstPlate, useLandmarks, useSheet, type LayChoice } from "../sheet/useSheet";
import type { Box } from "../kit/drawing/useZoom";
import { formatLength, formatPercent } from "../kit/format";
import { useSettings } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { Split } from "../kit/Split";
import { Empty } from "../kit/States";
import { Head, Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useSame } from "../kit/useSame";
import { useWide } from "../kit/useWide";
import { FillLabels, FillLayer, pieceBoxes } from "./FillLayer";
import { CrossingDetails } from "./CrossingDetails";
import { crossingTags, CrossingLayer, useCrossings } from "../sheet/CrossingLayer";
import { DuctList } from "./DuctList";
import { filterWires, type WireFilter } from "./filter";
import { PieceDetails } from "./PieceDetails";
import { WireDetails } from "./WireDetails";
import { OtherWires, WireEnds, WireLayer, useLine } from "./WireLayer";
import { endText } from "./ends";
import { WireList } from "./WireList";

export interface RoutesChoice extends LayChoice {
  wire?: string;
  piece?: string;
  duct?: string;
  /** `net`: the other wires of the chosen wire's net are drawn too. */
  others?: string;
  /** `ducts`: the list is that of the ducts. */
  list?: string;
}

interface Props {
  /** Its code. */
  job: string;
  hinges: JobDetail["hinges"];
  panel: PanelResult;
  result: RoutesResult;
  design: Design;
  shop: Rules;
  choice: RoutesChoice;
  filter: WireFilter;
}

const PAD_MM = 150;
/** Of a net; more lines than this tell nothing. */
const MOST_OTHERS = 300;

const NOTHING = { wire: undefined, piece: undefined, duct: undefined };

/**
 * Wires in a list and on the drawing; the chosen one with its way and its working. Drawn anew only when what it shows
 * is another: while a job is computed its state changes more often than its numbers.
 */
export const RoutesView = memo(function RoutesView({
  job,
  hinges,
  panel: whole,
  result,
  design,
  shop,
  choice,
  filter,
}: Props) {
  const wide = useWide();
  const layout = useSheet(whole, hinges, choice);
  const panel = useMemo(() => onSheet(whole, layout), [whole, layout]);
  // Drawn again only when the library is another one: an edit mostly leaves it alone.
  const parts = useMemo(() => mapBy(design.parts, (p) => p.number), [design.parts]);
  const context = useMemo(() => ({ design, shop }), [design, shop]);
  const colours = useMemo(() => coloursOf(design, shop.classes), [design, shop]);
  const wires = useSame(useMemo(() => filterWires(result, colours, filter), [result, colours, filter]));
  const boxes = useMemo(() => pieceBoxes(panel, result, layout), [panel, result, layout]);
  const wire = useMemo(() => result.wires.find((w) => w.id === choice.wire), [result, choice.wire]);
  const edge = useMemo(() => chosenEdge(result, choice), [result, choice]);
  const line = useLine(result, wire, layout);
  const [listed, setListed] = useState(
    choice.wire === undefined &&
      choice.piece === undefined &&
      choice.duct === undefined &&
      filter.crossing === undefined,
  );

  const others = useMemo(
    () =>
      choice.others === "net" && wire && wire.net !== null
        ? result.wires.filter((w) => w.net === wire.net && w !== wire).slice(0, MOST_OTHERS)
        : [],
    [result, wire, choice.others],
  );
  const ofDucts = choice.list === "ducts";
  const crossing = filter.crossing === undefined ? undefined : lookUp(design).crossings.get(filter.crossing);

  const chooseWire = useCallback((id: string) => {
    setListed(false);
    choose({ ...NOTHING, wire: id });
  }, []);
  const walkTo = useCallback((id: string) => choose({ ...NOTHING, wire: id }, true), []);
  const chooseDuct = useCallback((duct: string) => {
    setListed(false);
    choose({ ...NOTHING, duct });
  }, []);
  const change = useCallback(
    (part: WireFilter) =>
      router.setParams(
        Object.fromEntries(
          Object.entries(part).map(([k, v]) => [k, v === "" || v === "all" || v === "number" ? undefined : v]),
        ),
      ),
    [],
  );
  const move = (by: number, { target }: KeyboardEvent): void => {
    // A table has its own order, in which its arrows walk.
    if (target instanceof Element && target.getAttribute("role") === "grid") return;
    const at = wires.findIndex((w) => w.id === choice.wire);
    const next = wires[Math.min(wires.length - 1, Math.max(0, at + by))];
    if (next) walkTo(next.id);
  };
  useKeys({ ArrowDown: (e) => move(1, e), ArrowUp: (e) => move(-1, e), Escape: () => choose(NOTHING) });

  const marked = useMemo<Box[]>(() => boxes.filter((b) => b.edge === edge), [boxes, edge]);
  const show = useMemo<Box | null>(() => {
    if (line?.box) return around([line.box], PAD_MM);
    if (marked.length > 0) return around(marked, PAD_MM * 2);
    const over = result.edges.find((e) => e.kind === "crossing" && e.tag === filter.crossing);
    if (over) {
      const ends = [over.a, over.b].flatMap((n) => {
        const { face, x, y } = result.nodes[n]!;
        return layout.faces.has(face) ? [layout.boxOf(face, x, y, 0, 0)] : [];
      });
      if (ends.length > 0) return around(ends, PAD_MM * 2);
    }
    const first = wide ? undefined : layout.faces.get(firstPlate(layout) ?? "");
    return first ? around([layout.boxOf(first.id, 0, 0, first.w, first.h)], PAD_MM / 2) : null;
  }, [line, marked, layout, wide, result, filter.crossing]);

  const crossings = useCrossings(result, layout);
  const landmarks = useLandmarks(layout);
  const scale = useTextScale();
  const drawing = (
    <Drawing
      sheet={layout.box}
      landmarks={landmarks}
      show={show}
      label={wire ? `Way of wire ${wire.id}` : `Ducts of ${job} with their fill`}
      tap={(x, y) => {
        const hit = boxes.find((b) => x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + b.h);
        choose({ ...NOTHING, piece: hit?.piece.id });
      }}
      overlay={(view, visible, seen) => (
        <>
          <SignLayer panel={panel} layout={layout} parts={parts} view={view} visible={visible} />
          <Labels
            panel={panel}
            layout={layout}
            view={view}
            visible={visible}
            seen={seen}
            ducts={false}
            avoid={crossingTags(crossings, view, scale)}
          />
          <FillLabels boxes={boxes} view={view} seen={seen} visible={visible} />
          <CrossingLayer crossings={crossings} view={view} chosen={filter.crossing} />
          {line ? <WireEnds line={line} view={view} /> : null}
        </>
      )}
    >
      <PanelLayer panel={panel} layout={layout} />
      <FillLayer boxes={boxes} />
      <Marked boxes={marked} />
      <OtherWires result={result} wires={others} layout={layout} />
      {line ? <WireLayer line={line} colour={(wire && colours.get(wire.id)?.value) ?? null} /> : null}
    </Drawing>
  );
  const list = ofDucts ? (
    <DuctList job={job} panel={whole} result={result} design={design} chosen={choice.duct} choose={chooseDuct} />
  ) : (
    <WireList
      job={job}
      result={result}
      wires={wires}
      colours={colours}
      filter={filter}
      change={change}
      chosen={choice.wire}
      choose={chooseWire}
    />
  );
  const details = wire ? (
    <WireDetails
      key={wire.id}
      job={job}
      result={result}
      wire={wire}
      context={context}
      colours={colours}
      others={choice.others === "net"}
    />
  ) : edge !== null ? (
    <PieceDetails job={job} result={result} edge={edge} context={context} colours={colours} />
  ) : crossing && !(choice.wire ?? choice.piece ?? choice.duct) ? (
    <CrossingDetails job={job} crossing={crossing} result={result} design={design} />
  ) : (choice.wire ?? choice.piece ?? choice.duct) ? (
    <Empty
      title={`${choice.wire ?? choice.piece ?? choice.duct} is not here`}
      text="It is not in this design, or left out by the chosen options."
    />
  ) : null;
  const head = <ChoiceHead result={result} wire={wire} edge={edge} crossing={crossing} />;

  const lists = (
    <>
      <Button
        label={`Wires (${wires.length})`}
        pressed={(wide || listed) && !ofDucts}
        onPress={() => {
          setListed(true);
          choose({ list: undefined });
        }}
        testID="as-list"
      />
      <Button
        label={`Ducts (${result.ducts.length})`}
        pressed={(wide || listed) && ofDucts}
        onPress={() => {
          setListed(true);
          choose({ list: "ducts" });
        }}
        testID="as-ducts"
      />
    </>
  );

  if (wide) {
    return (
      <Split
        panes={[
          {
            key: "list",
            width: 470,
            label: "list",
            node: (
              <View className="min-h-0 flex-1">
                <View
                  className="flex-row flex-wrap gap-2 border-b border-line p-2"
                  role="group"
                  aria-label="What is listed and how faces are laid out"
                >
                  {lists}
                  <Arrange panel={whole} {...choice} />
                </View>
                {list}
              </View>
            ),
          },
          { key: "drawing", label: "drawing", node: drawing },
          ...(details
            ? [
                {
                  key: "details",
                  width: 340,
                  label: "details",
                  node: (
                    <ScrollView>
                      <View className="border-b border-line bg-tray p-3">{head}</View>
                      {details}
                    </ScrollView>
                  ),
                },
              ]
            : []),
        ]}
      />
    );
  }
  return (
    <View className="min-h-0 flex-1">
      <View className="flex-row flex-wrap gap-2 border-b border-line p-2" role="group" aria-label="List or drawing">
        {lists}
        <Button label="Drawing" pressed={!listed} onPress={() => setListed(false)} testID="as-drawing" />
        <Arrange panel={whole} {...choice} />
      </View>
      <WithSheet
        sheet={
          !listed && details ? (
            <BottomSheet testID="sheet" head={head} close={() => choose({ ...NOTHING, crossing: undefined })}>
              {details}
            </BottomSheet>
          ) : null
        }
      >
        {listed ? list : drawing}
      </WithSheet>
    </View>
  );
});

/** The chosen piece; of a chosen duct the fullest. */
function chosenEdge(result: RoutesResult, { piece, duct }: RoutesChoice): number | null {
  if (piece !== undefined) {
    const at = result.edges.findIndex((e) => e.kind === "piece" && e.id === piece);
    return at < 0 ? null : at;
  }
  return result.ducts.find((d) => d.tag === duct)?.worst ?? null;
}

function ChoiceHead({
  result,
  wire,
  edge,
  crossing,
}: {
  crossing: Crossing | undefined;
  result: RoutesResult;
  wire: RoutesResult["wires"][number] | undefined;
  edge: number | null;
}) {
  const settings = useSettings();
  if (wire) {
    return (
      <View testID="choice-head" className="flex-row items-baseline justify-between gap-2">
        <View className="min-w-0 shrink">
          <Head>Wire {wire.id}</Head>
          <Small numberOfLines={2}>
            {endText(wire.fromRef)} to {endText(wire.toRef)}
          </Small>
        </View>
        <Mono
          testID="wire-length"
          className={`font-monoStrong text-lead ${wire.lengthMm === null ? "text-brick" : ""}`}
        >
          {wire.lengthMm === null ? "no length" : formatLength(wire.lengthMm, settings)}
        </Mono>
      </View>
    );
  }
  if (edge !== null) {
    const piece = result.edges[edge] as PieceEdge;
    return (
      <View testID="choice-head" className="flex-row items-baseline justify-between gap-2">
        <Head>Duct piece {piece.id}</Head>
        <Mono className="font-monoStrong text-lead">
          {piece.insideMm2 === 0 ? "not known" : formatPercent(piece.fillPercent)}
        </Mono>
      </View>
    );
  }
  if (crossing) return <Head>Crossing {crossing.tag}</Head>;
  return null;
}
