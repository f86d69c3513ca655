import type { Design } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import type { Colours } from "@gray-bench/core/wiring/landings";
import { useEffect, useMemo, useRef, useState } from "react";
import { ScrollView, View } from "react-native";
import { Button } from "../../kit/Button";
import { choose } from "../../kit/choice";
import { useTokens } from "../../kit/settings";
import { Slider } from "../../kit/Slider";
import { Empty } from "../../kit/States";
import { Small } from "../../kit/Text";
import { LAYERS, spaceOf, type LayerName } from "./space";
import { DepthStage, SIDES, type SideName } from "./stage";

interface Props {
  job: string;
  panel: PanelResult;
  design: Design;
  routes: RoutesResult | undefined;
  colours: Colours;
  /** How far a door opens of which nothing is said. */
  opensDeg: number;
  chosen: { thing: "device" | "duct" | "rail"; of: string } | null;
  /** Lets go of what is chosen, and chooses another. */
  pick(thing: "device" | "duct" | "rail" | null, of: string): void;
  /** Half of the screen speaks of what is chosen: the picture has all of the other half. */
  isBrief: boolean;
}

const WORDS: Record<LayerName, string> = {
  door: "Doors",
  walls: "Walls",
  devices: "Devices",
  ducts: "Ducts",
  wires: "Wires",
};
const SIDE_WORDS: Record<SideName, string> = {
  corner: "From a corner",
  front: "Front",
  left: "Left",
  right: "Right",
  above: "Above",
};
/** A finger or mouse that came no further than this has tapped, px. */
const TAP_PX = 6;

/** The cabinets in three dimensions: turned, opened, looked into. */
export default function Depth({ job, panel, design, routes, colours, opensDeg, chosen, pick, isBrief }: Props) {
  const tokens = useTokens();
  const canvas = useRef<HTMLCanvasElement>(null);
  const stage = useRef<DepthStage | null>(null);
  const [missing, setMissing] = useState(false);
  const [hidden, setHidden] = useState<readonly LayerName[]>(["walls"]);
  const [degrees, setDegrees] = useState(0);
  const [failed, setFailed] = useState<string | null>(null);
  const space = useMemo(
    () => spaceOf(panel, design, routes, colours, opensDeg),
    [panel, design, routes, colours, opensDeg],
  );
  const most = Math.max(0, ...space.doors.map((d) => d.mostDeg));
  const guessed = space.doors.filter((d) => d.guessed).map((d) => d.enclosure);

  useEffect(() => {
    const node = canvas.current!;
    let made: DepthStage;
    try {
      made = new DepthStage(node, tokens);
    } catch {
      setMissing(true);
      return;
    }
    stage.current = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(node);
    return () => {
      watch.disconnect();
      made.end();
      stage.current = null;
    };
    // Colours are handed over with what is shown.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => stage.current?.show(space, tokens), [space, tokens]);
  useEffect(() => stage.current?.hide(hidden), [space, tokens, hidden]);
  useEffect(() => stage.current?.open(degrees), [space, tokens, degrees]);
  useEffect(
    () => stage.current?.choose(chosen?.thing ?? null, chosen?.of ?? null),
    [space, tokens, chosen?.thing, chosen?.of],
  );

  const pressed = useRef<{ x: number; y: number } | null>(null);
  const tapped = (e: React.PointerEvent): void => {
    const from = pressed.current;
    pressed.current = null;
    if (!from || Math.hypot(e.clientX - from.x, e.clientY - from.y) > TAP_PX) return;
    const box = canvas.current!.getBoundingClientRect();
    const hit = stage.current?.at(e.clientX - box.left, e.clientY - box.top);
    if (!hit || hit.thing === "wall" || hit.thing === "face") return pick(null, "");
    if (hit.thing !== "strip") pick(hit.thing, hit.of);
  };
  const byKey = (e: React.KeyboardEvent): void => {
    const s = stage.current;
    const acts: Record<string, () => void> = {
      ArrowLeft: () => s?.turn(-1, 0),
      ArrowRight: () => s?.turn(1, 0),
      ArrowUp: () => s?.turn(0, 1),
      ArrowDown: () => s?.turn(0, -1),
      "+": () => s?.zoom(1.25),
      "-": () => s?.zoom(0.8),
      "0": () => s?.fit(),
    };
    const act = acts[e.key];
    if (!act) return;
    e.preventDefault();
    act();
  };
  const download = async (): Promise<void> => {
    try {
      const bytes = await stage.current!.model();
      const link = document.createElement("a");
      link.href = URL.createObjectURL(new Blob([bytes], { type: "model/gltf-binary" }));
      link.download = `${job}-panel.glb`;
      link.click();
      URL.revokeObjectURL(link.href);
      setFailed(null);
    } catch {
      setFailed("The model could not be written; try with fewer layers shown.");
    }
  };
  const clashing = new Set(space.clashes.map((c) => c.of)).size;

  if (missing)
    return (
      <View testID="depth-missing" className="p-4">
        <Empty
          title="This browser draws nothing in depth"
          text="WebGL is switched off or missing. The drawing shows the same faces, and clashes are listed all the same."
        />
        <View className="flex-row">
          <Button label="To the drawing" onPress={() => choose({ show: undefined })} testID="depth-leave" />
        </View>
      </View>
    );
  return (
    <View className="min-h-0 flex-1" testID="depth">
      {isBrief ? null : (
        <ScrollView
          horizontal
          showsHorizontalScrollIndicator={false}
          className="grow-0 border-b border-line"
          contentContainerClassName="gap-2 p-2"
        >
          <View role="group" aria-label="Seen from" className="flex-row gap-2">
            {(Object.keys(SIDES) as SideName[]).map((side) => (
              <Button
                key={side}
                label={SIDE_WORDS[side]}
                onPress={() => stage.current?.from(side)}
                testID={`depth-${side}`}
              />
            ))}
          </View>
        </ScrollView>
      )}
      <canvas
        ref={canvas}
        data-testid="depth-canvas"
        data-blocks={space.blocks.length}
        role="img"
        tabIndex={0}
        aria-label={`Cabinets of ${job} in three dimensions. ${panel.devices.length} devices; ${clashing === 0 ? "no clash" : `clashes of ${clashing} marked`}. Arrow keys turn it, plus and minus draw it larger and smaller, 0 shows all.`}
        style={{ flex: 1, minHeight: 0, width: "100%", touchAction: "none", outlineOffset: -2 }}
        onPointerDown={(e) => (pressed.current = { x: e.clientX, y: e.clientY })}
        onPointerUp={tapped}
        onKeyDown={byKey}
      />
      {isBrief ? null : (
        <>
          <ScrollView
            horizontal
            showsHorizontalScrollIndicator={false}
            className="grow-0 border-t border-line"
            contentContainerClassName="gap-2 p-2"
          >
            <View role="group" aria-label="In sight" className="flex-row gap-2">
              {LAYERS.map((layer) => (
                <Button
                  key={layer}
                  label={WORDS[layer]}
                  pressed={!hidden.includes(layer)}
                  onPress={() =>
                    setHidden(hidden.includes(layer) ? hidden.filter((h) => h !== layer) : [...hidden, layer])
                  }
                  testID={`depth-layer-${layer}`}
                />
              ))}
            </View>
            <Button label="Download as glTF" onPress={() => void download()} testID="depth-model" />
          </ScrollView>
          <View className="px-3 pb-2">
            <Slider
              label="Doors open"
              said={degrees === 0 ? "shut" : `by ${degrees}°`}
              value={degrees}
              min={0}
              max={most}
              step={5}
              slide={setDegrees}
              let={() => undefined}
              testID="depth-open"
            />
            {guessed.length > 0 ? (
              <Small>No side of the hinge is stated for {guessed.join(", ")}: drawn at the left.</Small>
            ) : null}
            {failed ? <Small className="text-brick">{failed}</Small> : null}
          </View>
        </>
      )}
    </View>
  );
}
