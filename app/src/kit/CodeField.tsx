import ScanLine from "lucide-react-native/icons/scan-line";
import { lazy, Suspense, useState } from "react";
import { View } from "react-native";
import { Button } from "./Button";
import { Field } from "./Field";
import { useTokens } from "./settings";
import { Loading } from "./States";

const Camera = lazy(() => import("./Camera"));

/** A camera is there over encrypted lines, and on the device itself. */
const hasCamera = (): boolean => typeof navigator.mediaDevices?.getUserMedia === "function";

interface Props {
  label: string;
  /** What its parts are called: `pick` gives `pick-code`, `pick-code-take`, `pick-camera`. */
  id: string;
  take(code: string): void;
  action?: string;
  disabled?: boolean;
}

/** A code from a hand scanner, typed, or seen by the camera. */
export function CodeField({ label, id, take, action = "Take", disabled = false }: Props) {
  const t = useTokens();
  const [typed, setTyped] = useState("");
  const [camera, setCamera] = useState(false);
  const done = (): void => {
    const code = typed.trim();
    if (code === "" || disabled) return;
    setTyped("");
    take(code);
  };
  return (
    <View className="gap-2">
      <View className="flex-row items-end gap-2">
        <View className="min-w-0 flex-1">
          <Field label={label} value={typed} change={setTyped} keys={{ Enter: done }} testID={`${id}-code`} />
        </View>
        <Button label={action} onPress={done} disabled={disabled || typed.trim() === ""} testID={`${id}-code-take`} />
        {hasCamera() ? (
          <Button
            label={camera ? "Close the camera" : "Open the camera"}
            bare
            pressed={camera}
            icon={<ScanLine size={20} color={t.graphite} />}
            onPress={() => setCamera(!camera)}
            testID={`${id}-camera`}
          />
        ) : null}
      </View>
      {camera ? (
        <Suspense fallback={<Loading text="Opening the camera" />}>
          <Camera
            take={(code) => {
              setCamera(false);
              take(code);
            }}
          />
        </Suspense>
      ) : null}
    </View>
  );
}
