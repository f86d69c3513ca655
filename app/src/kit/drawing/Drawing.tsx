import { lazy, Suspense, useState } from "react";
import { View } from "react-native";
import { Empty, Loading } from "../States";
import type { DrawingProps } from "./props";

const Surface = lazy(() => import("./Surface"));

export function Drawing(props: DrawingProps) {
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

function Sized(props: DrawingProps) {
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
