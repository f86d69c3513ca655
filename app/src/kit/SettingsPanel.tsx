import { View } from "react-native";
import { Choice } from "./Choice";
import { Overlay } from "./Overlay";
import { useSettings } from "./settings";
import { Small } from "./Text";

export function SettingsPanel({ close }: { close: () => void }) {
  const { length, size, temperature, light, change } = useSettings();
  return (
    <Overlay title="Preferences" close={close} testID="settings">
      <View className="gap-4 p-4">
        <Choice
          label="Lengths"
          value={length}
          options={[
            ["mm", "millimetres"],
            ["in", "inches"],
          ]}
          choose={(v) => change({ length: v })}
          testID="unit-length"
        />
        <Choice
          label="Cross-sections"
          value={size}
          options={[
            ["mm2", "mm²"],
            ["awg", "AWG"],
          ]}
          choose={(v) => change({ size: v })}
          testID="unit-size"
        />
        <Choice
          label="Temperatures"
          value={temperature}
          options={[
            ["C", "°C"],
            ["F", "°F"],
          ]}
          choose={(v) => change({ temperature: v })}
          testID="unit-temperature"
        />
        <Choice
          label="Light"
          value={light}
          options={[
            ["day", "day"],
            ["night", "night shift"],
          ]}
          choose={(v) => change({ light: v })}
          testID="light"
        />
        <Small>Kept on this device. Files always carry millimetres, mm² and °C.</Small>
      </View>
    </Overlay>
  );
}
