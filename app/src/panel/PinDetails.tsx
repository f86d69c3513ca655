import type { Design, Part } from "@gray-bench/core/design/model";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import { formatLength, formatSize } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Body, Head, Small } from "../kit/Text";
import { addWireAct } from "@gray-bench/core/routes/wire-acts";

/** A pin of a device: what its clamp takes, and a wire from it. */
export function PinDetails({
  job,
  device,
  name,
  part,
  design,
}: {
  job: string;
  device: string;
  name: string;
  part: Part | undefined;
  design: Design;
}) {
  const settings = useSettings();
  const pin = part?.pins?.find((p) => p.name === name);
  const acts = useMemo(() => [addWireAct(design, device, name)], [design, device, name]);
  if (!pin) return <Small>There is no pin {name} on it.</Small>;
  const size = (mm2: number | undefined, none: string): string =>
    mm2 === undefined ? none : formatSize(mm2, settings);
  return (
    <View testID="pin-details" className="gap-2 border-l-4 border-verdigris bg-tray p-3">
      <Head>Pin {name}</Head>
      <Body>
        {pin.clamp ?? "clamp not stated"}, {size(pin.sizeMin, "any size")} to {size(pin.sizeMax, "any size")}, takes{" "}
        {pin.conductors ?? 1}
      </Body>
      <Small>
        {pin.exit ? `wires leave ${pin.exit}` : "no exit stated"},{" "}
        {pin.strip === undefined ? "strip length not stated" : `strip ${formatLength(pin.strip, settings)}`},{" "}
        {pin.x === undefined
          ? "no position stated"
          : `at ${formatLength(pin.x, settings)}, ${formatLength(pin.y!, settings)} on its body`}
      </Small>
      <Acts job={job} acts={acts} label={`At pin ${name}`} about={`${device}:${name}`} testID="pin" />
    </View>
  );
}
