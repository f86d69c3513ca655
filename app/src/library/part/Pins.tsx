import type { LibraryPart } from "@gray-bench/core/library/library";
import { CLAMPS, EXITS, type Clamp, type Exit, type Pin } from "@gray-bench/core/design/model";
import { freePin, mirrored, pinsOf, row } from "@gray-bench/core/library/part-shape";
import { useState } from "react";
import { View } from "react-native";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Field } from "../../kit/Field";
import { formatCount, formatLength } from "../../kit/format";
import { MmField } from "../../kit/MmField";
import { number } from "../../kit/quantity";
import { Select } from "../../kit/Select";
import { useSettings, useTokens } from "../../kit/settings";
import { TapRow } from "../../kit/TapRow";
import { Head, Mono, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";
import { Repeat } from "./Repeat";
import type { Draft } from "./useDraft";

interface Props {
  draft: Draft;
  pin: string | undefined;
  /** Other parts with pins, the most alike first. */
  like: readonly LibraryPart[];
  choosePin(name: string | undefined): void;
}

/** The pins of a part, the one that is chosen with all that is known of it. */
export function Pins({ draft, pin, like, choosePin }: Props) {
  const settings = useSettings();
  const { part, change } = draft;
  const pins = part.pins ?? [];
  const sized = part.w !== undefined && part.h !== undefined && part.d !== undefined;
  return (
    <View className="gap-2" testID="pins">
      <Head>Pins</Head>
      <Small>
        {sized
          ? "Tap the drawing where a wire is connected: the tap is drawn to edges, middles and into line with other pins."
          : "Write width, height and depth first: then pins are set by tapping the drawing."}
      </Small>
      <View role="list" aria-label="Pins">
        {pins.map((p) => (
          <View key={p.name} role="listitem">
            <TapRow press={() => choosePin(p.name)} on={p.name === pin} testID={`pin-${p.name}`}>
              <Mono className="w-18 text-cell">{p.name}</Mono>
              <Small className="flex-1">
                {p.x === undefined
                  ? "no place yet"
                  : `${formatLength(p.x, settings)}, ${formatLength(p.y!, settings)}, ${formatLength(p.z!, settings)} above`}
                {p.exit ? `; wires leave ${p.exit}` : ""}
              </Small>
            </TapRow>
          </View>
        ))}
      </View>
      <View className="flex-row flex-wrap gap-2">
        <Button
          label="Add a pin by number"
          onPress={() => {
            const name = freePin(pins);
            change((p) => ({ ...p, pins: [...(p.pins ?? []), { name }] }));
            choosePin(name);
          }}
          testID="pin-add"
        />
        {pins.length > 0 ? (
          <Button
            label="Mirror them, left for right"
            onPress={() => change((p) => ({ ...p, pins: mirrored(p) }))}
            testID="pins-mirror"
          />
        ) : null}
      </View>
      {pins.length === 0 && like.length > 0 ? (
        <View className="max-w-80">
          <Select
            label="Or take those of a like part"
            value=""
            choices={like.map((l) => `${l.number}, ${l.pins!.length} pins`)}
            choose={(text) => {
              const from = like.find((l) => text.startsWith(`${l.number}, `));
              if (from) change((p) => ({ ...p, pins: pinsOf(from, p) }));
            }}
            testID="pins-like"
          />
        </View>
      ) : null}
    </View>
  );
}

/** All that is known of one pin. */
export function PinForm({
  draft: { part, change },
  pin,
  landed,
  choosePin,
}: {
  draft: Draft;
  pin: Pin;
  /** Where the last tap landed, and what it was drawn to. */
  landed: string | null;
  choosePin(name: string | undefined): void;
}) {
  const t = useTokens();
  const write = (more: Partial<Pin>): void =>
    change((p) => ({
      ...p,
      pins: (p.pins ?? []).map((one) => (one.name === pin.name ? said({ ...one, ...more }) : one)),
    }));
  const others = new Set((part.pins ?? []).filter((p) => p.name !== pin.name).map((p) => p.name));
  const { text, type, leave } = useTyped(pin.name, (written) => {
    const name = written.trim();
    if (name === "" || others.has(name)) return false;
    write({ name });
    if (name !== pin.name) choosePin(name);
    return true;
  });
  const place = (id: "x" | "y" | "z", label: string) => (
    <View className="w-26">
      <MmField
        label={label}
        mm={pin[id]}
        // All three or none: what is not said yet is nought, for depth half of it.
        change={(v) =>
          v === undefined
            ? write({ x: undefined, y: undefined, z: undefined })
            : write({ x: pin.x ?? 0, y: pin.y ?? 0, z: pin.z ?? (part.d ?? 0) / 2, [id]: v })
        }
        least={-1000}
        testID={`pin-${id}`}
      />
    </View>
  );
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="pin-form">
      <Head>Pin {pin.name}</Head>
      {landed ? (
        <Small role="status" testID="pin-landed">
          {landed}
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        <View className="w-26">
          <Field label="Name" value={text} change={type} leave={leave} testID="pin-name" />
        </View>
        {place("x", "From the left")}
        {place("y", "From below")}
        {place("z", "Above the face")}
        <Button
          label={`Delete pin ${pin.name}`}
          bare
          icon={<Trash size={18} color={t.graphite} />}
          onPress={() => {
            change((p) => ({ ...p, pins: (p.pins ?? []).filter((one) => one.name !== pin.name) }));
            choosePin(undefined);
          }}
          testID="pin-delete"
        />
      </View>
      {others.has(text.trim()) ? (
        <Small role="alert" className="text-brick">
          There is a pin {text.trim()} already.
        </Small>
      ) : null}
      <Choice<Exit>
        label="Wires leave"
        value={pin.exit ?? "out"}
        options={EXITS.map((e) => [e, e === "out" ? "to the front" : e] as const)}
        choose={(exit) => write({ exit })}
        testID="pin-exit"
      />
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        <View className="w-32">
          <Select
            label="Clamp"
            value={pin.clamp ?? ""}
            choices={CLAMPS}
            none="not told"
            choose={(v) => write({ clamp: (v || undefined) as Clamp | undefined })}
            testID="pin-clamp"
          />
        </View>
        <Mm2 label="From, mm²" value={pin.sizeMin} write={(sizeMin) => write({ sizeMin })} testID="pin-min" />
        <Mm2 label="To, mm²" value={pin.sizeMax} write={(sizeMax) => write({ sizeMax })} testID="pin-max" />
        <View className="w-26">
          <MmField label="Strip" mm={pin.strip} change={(strip) => write({ strip })} testID="pin-strip" />
        </View>
        <View className="w-26">
          <MmField label="Wire inside" mm={pin.tail} change={(tail) => write({ tail })} testID="pin-tail" />
        </View>
      </View>
      <Row draft={{ part, change }} pin={pin} />
      <View className="flex-row">
        <Button label="Done" onPress={() => choosePin(undefined)} testID="pin-done" />
      </View>
    </View>
  );
}

/** What is undefined is not said. */
const said = (pin: Pin): Pin =>
  Object.fromEntries(Object.entries(pin).filter(([, v]) => v !== undefined)) as unknown as Pin;

function Mm2({
  label,
  value,
  write,
  testID,
}: {
  label: string;
  value: number | undefined;
  write(value: number | undefined): void;
  testID: string;
}) {
  const { text, type, leave } = useTyped(value === undefined ? "" : String(value), (written) => {
    if (written.trim() === "") {
      write(undefined);
      return true;
    }
    const read = number(written);
    if (read === null || read <= 0) return false;
    write(read);
    return true;
  });
  return (
    <View className="w-22">
      <Field label={label} value={text} change={type} leave={leave} testID={testID} />
    </View>
  );
}

/** More pins like one, with a pitch. */
function Row({ draft: { part, change }, pin }: { draft: Pick<Draft, "part" | "change">; pin: Pin }) {
  const [step, setStep] = useState<"1" | "2">("1");
  const rows = (count: number, dx: number, dy: number): Pin[] =>
    row(part.pins ?? [], pin, { count, dx, dy, step: Number(step) });
  return (
    <Repeat
      what="pin"
      told={(more, dx, dy) => {
        const names = rows(more + 1, dx, dy).map((p) => p.name);
        return `${formatCount(more)} more: ${names.slice(0, 6).join(", ")}${more > 6 ? " …" : ""}`;
      }}
      add={(count, dx, dy) => change((p) => ({ ...p, pins: [...(p.pins ?? []), ...rows(count, dx, dy)] }))}
    >
      <Choice<"1" | "2">
        label="Names go on by"
        value={step}
        options={[
          ["1", "one"],
          ["2", "two: odd or even ones"],
        ]}
        choose={setStep}
        testID="pin-row-step"
      />
    </Repeat>
  );
}
