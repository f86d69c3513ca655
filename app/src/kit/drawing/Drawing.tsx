import { lazy, Suspense, useState, type ReactNode } from "react";
import { View } from "react-native";
import { Empty, Loading } from "../States";
import type { Box, View as Place } from "./useZoom";

const Surface = lazy(() => import("./Surface"));

export interface Props {
  /** What is drawn, sheet millimetres, y down. */
  sheet: Box;
  /** Brought into view whenever it changes. */
  show: Box | null;
  label: string;
  /** In sheet millimetres, lines with a constant weight on the screen. */
  children: ReactNode;
  /** In pixels: text and what keeps its size. `visible` is the drawn part of the sheet, `seen` what the view shows. */
  overlay(view: Place, visible: Box, seen: Box): ReactNode;
  tap(x: number, y: number): void;
}

export function Drawing(props: Props) {
  if (props.sheet.w === 0) {
    return (
      <Empty
        title="Nothing to draw"
        text="No enclosure of the design has a plate, and nothing stands on any other face."
      />
    );
  }
  return <Sized {...props} />;
}

function Sized(props: Props) {
  const [size, setSize] = useState<{ w: number; h: number } | null>(null);
  return (
    <View
      className="min-h-0 flex-1 overflow-hidden bg-paper"
      onLayout={(e) => {
        const { width, height } = e.nativeEvent.layout;
        if (width > 0 && height > 0) setSize({ w: width, h: height });
      }}
    >
      {size ? (
        <Suspense fallback={<Loading text="Opening the drawing" />}>
          <Surface {...props} w={size.w} h={size.h} />
        </Suspense>
      ) : null}
    </View>
  );
}
