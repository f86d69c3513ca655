import type { ArrivedTable, TableLook } from "@gray-bench/contract/intake";
import { LANGUAGES, type Language } from "@gray-bench/core/tables/cells";
import { NUMBERS, type CellKind, type Field as OurField } from "@gray-bench/core/tables/fields";
import { MOST_PIECES, type Matched, type Piece } from "@gray-bench/core/tables/matching";
import { useEffect, useRef, useState } from "react";
import { View } from "react-native";
import Plus from "lucide-react-native/icons/plus";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Field } from "../kit/Field";
import { Overlay } from "../kit/Overlay";
import { Select } from "../kit/Select";
import { useTokens } from "../kit/settings";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small } from "../kit/Text";
import { withColumn, withField } from "./matchingActs";

interface Props {
  table: ArrivedTable;
  field: OurField;
  look: TableLook;
  busy: boolean;
  change(to: (t: ArrivedTable) => ArrivedTable): void;
  close(): void;
}

/** Which columns a field is read from, and how; with what comes of it in the first rows. */
export function FieldSheet({ table, field, look, busy, change, close }: Props) {
  // What is typed stands here at once, and is written when somebody stops typing.
  const [matched, setMatched] = useState(table.matching!.columns[field.id]);
  const [pieces, setPieces] = useState(() => matched !== undefined && isPieced(matched));
  const later = useRef<{ timer: ReturnType<typeof setTimeout>; write(): void } | null>(null);
  const flush = (): void => {
    if (!later.current) return;
    clearTimeout(later.current.timer);
    later.current.write();
    later.current = null;
  };
  const last = useRef(flush);
  useEffect(() => {
    last.current = flush;
  });
  useEffect(() => () => last.current(), []);
  const set = (next: Matched | null, typed = false): void => {
    setMatched(next ?? undefined);
    if (later.current) clearTimeout(later.current.timer);
    const write = (): void => change(withField(field.id, next));
    later.current = { write, timer: setTimeout(() => last.current(), typed ? PAUSE_MS : 0) };
  };
  const chosen = matched?.from.length === 1 ? matched.from[0]!.heading : null;
  return (
    <Overlay title={field.label} close={close} testID="of-field">
      <View className="gap-3 p-3">
        <Examples field={field} look={look} busy={busy} />
        {pieces && matched ? (
          <Pieces matched={matched} look={look} set={set} />
        ) : (
          <View role="list" aria-label="Columns" className="border-t border-line">
            <View role="listitem">
              <TapRow press={() => set(null)} on={matched === undefined} testID="column-none">
                <Body>Not in this table</Body>
              </TapRow>
            </View>
            {look.headings.map((h, i) => (
              <View key={h} role="listitem">
                <TapRow
                  press={() => {
                    flush();
                    setMatched(withColumn(table.matching!, field.id, h, look).columns[field.id]);
                    change((t) =>
                      t.matching ? { ...t, by: null, matching: withColumn(t.matching, field.id, h, look) } : t,
                    );
                  }}
                  on={chosen === h}
                  testID={`column-${i + 1}`}
                >
                  <View className="min-w-0 flex-1">
                    <Mono>{h}</Mono>
                    <Small numberOfLines={1}>{samples(look, i)}</Small>
                  </View>
                </TapRow>
              </View>
            ))}
          </View>
        )}
        {matched ? (
          <>
            <View className="items-start">
              <Button
                label={pieces ? "One whole column" : "Put it together, or cut it"}
                onPress={() => {
                  // What only pieces can say goes with them.
                  if (pieces && isPieced(matched)) set({ ...matched, from: [{ heading: matched.from[0]!.heading }] });
                  setPieces(!pieces);
                }}
                testID="field-pieces"
              />
            </View>
            <HowRead kind={field.kind} matched={matched} set={set} />
          </>
        ) : null}
        <View className="items-start">
          <Button kind="solid" label="Done" onPress={close} testID="field-done" />
        </View>
      </View>
    </Overlay>
  );
}

const PAUSE_MS = 400;

const isPieced = ({ from }: Matched): boolean => from.length > 1 || from.some((p) => p.before || p.cut);

const samples = (look: TableLook, column: number): string => {
  const values = [...new Set(look.sample.map((r) => r.cells[column] ?? "").filter((c) => c !== ""))];
  return values.length === 0 ? "empty in the first rows" : values.slice(0, 4).join("  ·  ");
};

const MOST_EXAMPLES = 4;

/** What comes of it, in the first rows that say something and in the first that is not understood. */
function Examples({ field, look, busy }: { field: OurField; look: TableLook; busy: boolean }) {
  const bad = look.preview?.fields[field.id]?.first;
  const texts = new Set<string>();
  const rows = (look.preview?.rows ?? []).filter((r) => {
    const text = r.cells[field.id]?.text;
    return text !== undefined && !texts.has(text) && texts.add(text);
  });
  const shown = [
    ...rows.slice(0, MOST_EXAMPLES),
    ...(bad && !rows.slice(0, MOST_EXAMPLES).some((r) => r.line === bad.line) ? [bad] : []),
  ];
  return (
    <View
      testID="field-examples"
      role="status"
      // Kept as high as it can become, so that nothing below jumps away under a finger.
      className={`min-h-29 gap-1 ${busy ? "opacity-50" : ""}`}
    >
      {shown.length === 0 ? <Small>Choose the column that says it.</Small> : null}
      {shown.map((r) => {
        const cell = r.cells[field.id]!;
        return (
          <View key={r.line} className="flex-row flex-wrap gap-x-2">
            <Small className="w-13">line {r.line}</Small>
            <Mono className="text-small">{cell.text}</Mono>
            {"told" in cell ? (
              <Small>is read as {cell.told}</Small>
            ) : (
              <Small className="text-ochre">is not {cell.wanted}</Small>
            )}
          </View>
        );
      })}
    </View>
  );
}

/** A value of several columns, or of pieces of them. */
function Pieces({
  matched,
  look,
  set,
}: {
  matched: Matched;
  look: TableLook;
  set(next: Matched, typed?: boolean): void;
}) {
  const t = useTokens();
  const put = (from: Piece[], typed = false): void => set({ ...matched, from }, typed);
  const one = (at: number, to: (p: Piece) => Piece, typed = false): void =>
    put(
      matched.from.map((p, i) => (i === at ? to(p) : p)),
      typed,
    );
  return (
    <View className="gap-3" testID="pieces">
      {matched.from.map((p, i) => (
        <View key={i} className="gap-2 border-l-4 border-line pl-3">
          <View className="flex-row flex-wrap items-end gap-2">
            <Field
              label="Written in front"
              value={p.before ?? ""}
              change={(before) =>
                one(
                  i,
                  ({ before: _, ...rest }) => (before === "" ? rest : { ...rest, before: before.slice(0, 20) }),
                  true,
                )
              }
              testID={`piece-${i + 1}-before`}
            />
            <Select
              label="Column"
              value={p.heading}
              choices={look.headings}
              choose={(heading) => {
                if (heading !== "") one(i, (was) => ({ ...was, heading }));
              }}
              testID={`piece-${i + 1}-heading`}
            />
            {matched.from.length > 1 ? (
              <Button
                label={`Take column ${i + 1} out`}
                bare
                icon={<Trash size={18} color={t.graphite} />}
                onPress={() => put(matched.from.filter((_, k) => k !== i))}
                testID={`piece-${i + 1}-out`}
              />
            ) : null}
          </View>
          <View className="flex-row flex-wrap items-end gap-2">
            <Field
              label="Cut at"
              value={p.cut?.at ?? ""}
              change={(at) =>
                one(
                  i,
                  ({ cut, ...rest }) =>
                    at === "" ? rest : { ...rest, cut: { at: at.slice(0, 20), piece: cut?.piece ?? 1 } },
                  true,
                )
              }
              testID={`piece-${i + 1}-cut`}
            />
            {p.cut ? (
              <Select
                label="and take the piece"
                value={PIECE_WORDS[p.cut.piece] ?? String(p.cut.piece)}
                choices={Object.values(PIECE_WORDS)}
                choose={(word) => {
                  const piece = Number(Object.entries(PIECE_WORDS).find(([, w]) => w === word)?.[0] ?? 1);
                  one(i, (was) => (was.cut ? { ...was, cut: { ...was.cut, piece } } : was));
                }}
                testID={`piece-${i + 1}-which`}
              />
            ) : null}
          </View>
        </View>
      ))}
      {matched.from.length < MOST_PIECES ? (
        <View className="items-start">
          <Button
            label="Add a column"
            icon={<Plus size={18} color={t.graphite} />}
            onPress={() => {
              const used = new Set(matched.from.map((p) => p.heading));
              put([...matched.from, { heading: look.headings.find((h) => !used.has(h)) ?? look.headings[0]! }]);
            }}
            testID="piece-add"
          />
        </View>
      ) : null}
    </View>
  );
}

const PIECE_WORDS: Readonly<Record<number, string>> = {
  1: "first",
  2: "second",
  3: "third",
  4: "fourth",
  [-1]: "last",
  [-2]: "last but one",
};

const LENGTHS = ["mm", "cm", "m", "in", "ft"] as const;

/** In what unit, with what sign, in what language its cells are written. */
function HowRead({ kind, matched, set }: { kind: CellKind; matched: Matched; set(next: Matched): void }) {
  const number = NUMBERS.has(kind);
  return (
    <View className="gap-3">
      {kind === "length" ? (
        <Choice
          label="Unit, where none stands beside the number"
          value={(LENGTHS as readonly string[]).includes(matched.unit ?? "mm") ? (matched.unit ?? "mm") : "mm"}
          options={LENGTHS.map((u) => [u, u] as const)}
          choose={(unit) => set({ ...matched, unit })}
          testID="field-unit"
        />
      ) : null}
      {kind === "size" ? (
        <Choice
          label="Unit, where none stands beside the number"
          value={matched.unit === "awg" ? "awg" : "mm2"}
          options={[
            ["mm2", "mm²"],
            ["awg", "AWG"],
          ]}
          choose={(unit) => set({ ...matched, unit })}
          testID="field-unit"
        />
      ) : null}
      {number ? (
        <Choice
          label="Decimal sign"
          value={matched.decimal ?? "."}
          options={[
            [".", "point"],
            [",", "comma"],
          ]}
          choose={(decimal) => set({ ...matched, decimal })}
          testID="field-decimal"
        />
      ) : null}
      {kind === "colour" ? (
        <Select
          label="Colours are written in"
          value={matched.language ?? "IEC"}
          choices={LANGUAGES}
          choose={(language) => {
            if (language !== "") set({ ...matched, language: language as Language });
          }}
          testID="field-language"
        />
      ) : null}
      <View className="gap-1">
        <Head>Empty cells</Head>
        <View className="items-start">
          <Button
            label="An empty cell says what the one above says"
            pressed={matched.asAbove === true}
            onPress={() => {
              const { asAbove, ...rest } = matched;
              set(asAbove ? rest : { ...rest, asAbove: true });
            }}
            testID="field-above"
          />
        </View>
      </View>
    </View>
  );
}
