import type { Arrival } from "@gray-bench/contract/intake";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { Box } from "@gray-bench/core/drawings/read";
import type { DrawingSaid } from "@gray-bench/core/drawings/said";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../../kit/Button";
import { choose } from "../../kit/choice";
import { formatCount, formatLength, keepTags } from "../../kit/format";
import { useSettings, useTokens } from "../../kit/settings";
import { SeveritySign } from "../../kit/Severity";
import { Failed, Loading } from "../../kit/States";
import { TapRow } from "../../kit/TapRow";
import { Body, Head, Mono, Small } from "../../kit/Text";
import { useDrawingLook, type useArrival } from "../../queries/useArrival";
import { Bars } from "./Bars";
import { Enclosures } from "./Enclosures";
import { FaceForm } from "./FaceForm";
import { Layers } from "./Layers";
import { LayoutDrawing } from "./LayoutDrawing";
import {
  sameBox,
  tappedFrame,
  tappedView,
  withBar,
  withDrawing,
  withEnclosure,
  withLayer,
  withoutView,
  withView,
} from "./layoutActs";

interface Props {
  arrival: Arrival;
  /** Of the drawing, counted from 1. */
  at: number;
  view: string | undefined;
  frame: string | undefined;
  act: ReturnType<typeof useArrival>;
}

/** Around a place that is pointed at so much is shown, as a share of the sheet. */
const AROUND = 0.15;

/** One drawing: which of its frames are faces, what its layers are, and what of it was understood. */
export function LayoutPane({ arrival, at, view, frame, act }: Props) {
  const { said } = arrival.drawings[at - 1]!;
  const { data: look, error, refetch } = useDrawingLook(arrival, at);
  const [point, setPoint] = useState<{ x: number; y: number } | null>(null);
  const [show, setShow] = useState<Box | null | undefined>(undefined);
  if (!look)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the drawing" />;
  const change = (to: (said: DrawingSaid) => DrawingSaid): void => act.change.mutate({ to: withDrawing(at, to) });
  const mm = said.views[0]?.mm ?? look.unitMm ?? 1;
  const frameAt = Number(frame ?? "0") || 0;
  const viewAt = Number(view ?? "0") || 0;
  const chosen = look.frames[frameAt - 1];
  const tap = (x: number, y: number): void => {
    const next = tappedFrame(look, x, y, frameAt);
    const box = next === null ? null : look.frames[next - 1]!.box;
    const face = box ? said.views.findIndex((v) => sameBox(v.frame, box)) + 1 : tappedView(said, x, y);
    if (face > 0) choose({ view: String(face), frame: undefined });
    else choose({ frame: next === null ? undefined : String(next), view: undefined });
  };
  const lookAt = (x: number, y: number): void => {
    const size = Math.max(look.box.w, look.box.h) * AROUND;
    setPoint({ x, y });
    setShow({ x: x - size / 2, y: y - size / 2, w: size, h: size });
  };
  return (
    <View className="min-h-0 flex-1" testID="layout-pane">
      <View className="h-[44%] border-b border-line">
        <LayoutDrawing
          look={look}
          said={said}
          mm={mm}
          view={viewAt}
          frame={frameAt}
          show={show}
          point={point}
          tap={tap}
        />
      </View>
      <ScrollView className="min-h-0 flex-1" contentContainerClassName="gap-5 p-3">
        {look.partly ? (
          <Small className="text-ochre">
            There is too much in this drawing to show all of it. All of it is read; draw the layout alone where that can
            be done.
          </Small>
        ) : null}
        {chosen ? (
          <FaceForm
            key={frameAt}
            look={look}
            said={said}
            frame={chosen}
            mm={mm}
            take={(v) => {
              change(withView(v));
              choose({ frame: undefined, view: String(said.views.length + 1) });
            }}
            leave={() => choose({ frame: undefined })}
          />
        ) : null}
        <Views
          look={look}
          said={said}
          at={viewAt}
          show={(i) => {
            choose({ view: String(i + 1), frame: undefined });
            setShow({ ...said.views[i]!.frame });
          }}
          remove={(i) => {
            change(withoutView(i));
            choose({ view: undefined });
          }}
        />
        <Enclosures said={said} change={(tag, c) => change(withEnclosure(tag, c))} />
        <Bars look={look} said={said} change={(kind, across, part) => change(withBar(kind, across, part))} />
        <NotTaken look={look} said={said} show={lookAt} />
        <Layers look={look} change={(layer, meaning) => change(withLayer(layer, meaning))} />
      </ScrollView>
    </View>
  );
}

/** The faces that the drawing shows, and what each holds. */
function Views({
  look,
  said,
  at,
  show,
  remove,
}: {
  look: DrawingLook;
  said: DrawingSaid;
  at: number;
  show(i: number): void;
  remove(i: number): void;
}) {
  const t = useTokens();
  const settings = useSettings();
  return (
    <View testID="views">
      <Head>Faces</Head>
      {said.views.length === 0 ? (
        <Small testID="no-views">
          Tap the edge of a plate or a door in the drawing, and say which face it is. What stands around it, such as
          titles and parts lists, is then left alone.
        </Small>
      ) : (
        <View role="list">
          {said.views.map(({ enclosure, face }, i) => {
            const v = look.views[i];
            const held = v ? heldText(v) : "";
            return (
              <View key={`${enclosure} ${face}`} role="listitem" className="flex-row items-center">
                <View className="min-w-0 flex-1">
                  <TapRow press={() => show(i)} on={at === i + 1} testID={`view-${i + 1}`}>
                    <View className="min-w-0 flex-1">
                      <Body className="font-medium">
                        {enclosure} {face}
                        {v ? `, ${formatLength(v.w, settings)} × ${formatLength(v.h, settings)}` : ""}
                      </Body>
                      <Small>{held}</Small>
                    </View>
                  </TapRow>
                </View>
                <Button
                  label={`Take ${enclosure} ${face} out`}
                  bare
                  icon={<Trash size={18} color={t.graphite} />}
                  onPress={() => remove(i)}
                  testID={`view-${i + 1}-out`}
                />
              </View>
            );
          })}
        </View>
      )}
    </View>
  );
}

function heldText({ bars, devices, holes }: DrawingLook["views"][number]): string {
  const ducts = bars.filter((b) => b.kind === "duct").length;
  const strips = devices.filter((d) => d.strip).length;
  const counts: [number, string, string][] = [
    [devices.length - strips, "device", "devices"],
    [strips, "strip", "strips"],
    [ducts, "duct", "ducts"],
    [bars.length - ducts, "rail", "rails"],
    [holes, "hole", "holes"],
  ];
  const some = counts.filter(([n]) => n > 0).map(([n, one, many]) => `${formatCount(n)} ${n === 1 ? one : many}`);
  return some.length > 0 ? some.join(", ") : "nothing of it is understood yet: see its layers";
}

/** What of the faces was not understood, and of the file not read, each with its place. */
function NotTaken({ look, said, show }: { look: DrawingLook; said: DrawingSaid; show(x: number, y: number): void }) {
  const { notTaken, moreNotTaken, setAside } = look;
  if (said.views.length === 0) return null;
  const passed = setAside.filter((s) => !s.matters);
  return (
    <View className="gap-1" testID="not-taken">
      <View className="flex-row items-center gap-1">
        {notTaken.length > 0 ? <SeveritySign severity="check" /> : null}
        <Head>
          {notTaken.length === 0
            ? "All of it was understood"
            : `${formatCount(notTaken.length + moreNotTaken)} not taken`}
        </Head>
      </View>
      <View role="list">
        {notTaken.map((n, i) => (
          <View key={i} role="listitem">
            <TapRow press={() => show(n.x, n.y)} testID={`not-taken-${i + 1}`}>
              <View className="min-w-0 flex-1">
                <Mono className="break-words text-small">{keepTags(n.found)}</Mono>
                <Small>
                  {n.layer === "" ? "" : `layer ${n.layer}; `}wanted: {n.wanted}
                </Small>
              </View>
            </TapRow>
          </View>
        ))}
      </View>
      {moreNotTaken > 0 ? <Small>and {formatCount(moreNotTaken)} more, in not-read.csv</Small> : null}
      {passed.length > 0 ? (
        <Small>
          Passed over as explaining only:{" "}
          {passed.map((s) => `${formatCount(s.count)} × ${s.what} on ${s.layer}`).join(", ")}.
        </Small>
      ) : null}
    </View>
  );
}
