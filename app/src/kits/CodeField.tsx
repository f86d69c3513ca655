import ScanLine from "lucide-react-native/icons/scan-line";
import { lazy, Suspense, useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { useTokens } from "../kit/settings";
import { Loading } from "../kit/States";

const Camera = lazy(() => import("./Camera"));

/** A camera is there over encrypted lines, and on the device itself. */
const hasCamera = (): boolean => typeof navigator.mediaDevices?.getUserMedia === "function";

/** A code from a hand scanner, typed, or seen by the camera. */
export function CodeField({ take }: { take(code: string): void }) {
  const t = useTokens();
  const [typed, setTyped] = useState("");
  const [camera, setCamera] = useState(false);
  const done = (): void => {
    const code = typed.trim();
    setTyped("");
    if (code !== "") take(code);
  };
  return (
    <View className="gap-2">
      <View className="flex-row items-end gap-2">
        <View className="min-w-0 flex-1">
          <Field
            label="Scan or type the code of the part or its place"
            value={typed}
            change={setTyped}
            keys={{ Enter: done }}
            testID="pick-code"
          />
        </View>
        <Button label="Take" onPress={done} disabled={typed.trim() === ""} testID="pick-code-take" />
        {hasCamera() ? (
          <Button
            label={camera ? "Close the camera" : "Open the camera"}
            bare
            pressed={camera}
            icon={<ScanLine size={20} color={t.graphite} />}
            onPress={() => setCamera(!camera)}
            testID="pick-camera"
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
