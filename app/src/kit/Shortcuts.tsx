import { View } from "react-native";
import { Overlay } from "./Overlay";
import { Body, Mono } from "./Text";

const KEYS: readonly [string, string][] = [
  ["/", "search for any tag, wire number or part; * stands for any text, ? for one character"],
  ["?", "this list"],
  ["Esc", "close what is open, then let go of what is chosen"],
  ["↓ ↑", "next and previous wire in the list"],
  ["+ −", "draw larger or smaller"],
  ["0", "fit the drawing into view"],
  ["Ctrl Z", "undo your last edit; with Shift, redo it"],
  ["Tab", "from control to control; Enter follows or chooses"],
];

export function Shortcuts({ close }: { close: () => void }) {
  return (
    <Overlay title="Keys" close={close} testID="shortcuts">
      <View className="p-4">
        {KEYS.map(([key, text]) => (
          <View key={key} className="flex-row gap-3 border-b border-line py-2">
            <Mono className="w-18">{key}</Mono>
            <Body className="flex-1">{text}</Body>
          </View>
        ))}
      </View>
    </Overlay>
  );
}
