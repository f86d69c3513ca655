import type { LibraryOutlook } from "@gray-bench/contract/library";
import type { LibraryWay } from "@gray-bench/core/tables/library-ways";
import { useState } from "react";
import { useDropzone } from "react-dropzone";
import { View } from "react-native";
import Upload from "lucide-react-native/icons/upload";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatCount } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Failed } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { Refused } from "./Refused";
import { useLibraryOutlook, useSaveLibrary } from "../queries/useLibrary";

/** Takes a library file or a table of parts, shows what it changes, and makes it a version. */
export function ImportLibrary({ on, next }: { on: string; next: number }) {
  const t = useTokens();
  const settings = useSettings();
  const look = useLibraryOutlook();
  const [file, setFile] = useState<File | null>(null);
  const [how, setHow] = useState<LibraryWay>("into");
  const [name, setName] = useState(settings.name);
  const [why, setWhy] = useState("");
  const leave = (): void => {
    choose({ files: undefined });
    setFile(null);
    look.reset();
  };
  const save = useSaveLibrary(leave);
  const zone = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([one]) => {
      if (!one) return;
      if (zone.inputRef.current) zone.inputRef.current.value = "";
      save.reset();
      const first = on === "" ? "whole" : "into";
      setFile(one);
      setHow(first);
      look.mutate({ file: one, how: first });
    },
  });
  const lookAs = (way: LibraryWay): void => {
    setHow(way);
    if (file) look.mutate({ file, how: way });
  };
  const take = (): void => {
    if (!file || name.trim() === "") return;
    settings.change({ name: name.trim() });
    save.mutate({ file, how, on, who: name.trim(), ...(why.trim() ? { why: why.trim() } : {}) });
  };
  return (
    <div {...zone.getRootProps()} data-testid="library-drop">
      <View className="gap-2">
        <input {...zone.getInputProps({ "aria-label": "Library file" })} data-testid="library-input" />
        <View className="flex-row flex-wrap items-center gap-2">
          <Button
            kind={on === "" ? "solid" : "plain"}
            label={look.isPending ? "Reading …" : "Import"}
            disabled={look.isPending || save.isPending}
            icon={<Upload size={18} color={on === "" ? t.onVerdigris : t.graphite} />}
            onPress={zone.open}
            testID="library-open"
          />
          {on === "" ? null : (
            <>
              <FileLink href="/api/library/file" label="Download" testID="library-file" />
              <FileLink href="/api/library/file?as=xlsx" label="as XLSX" testID="library-xlsx" />
              <FileLink href="/api/library/file?as=csv" label="as CSV" testID="library-csv" />
            </>
          )}
        </View>
        {look.error ? <Refused error={look.error} /> : null}
        {save.error ? <Failed error={save.error} /> : null}
        <Small>
          The file that is downloaded here, or any table of parts as CSV or XLSX with their numbers: sizes, makers,
          texts, losses are read by their headings.
        </Small>
        {file && on !== "" && (look.data || look.error) ? (
          <View className="flex-row flex-wrap gap-2" role="group" aria-label="How it is taken">
            <Button
              label="Write it into the library"
              pressed={how === "into"}
              onPress={() => lookAs("into")}
              testID="library-into"
            />
            <Button
              label="It is the whole library"
              pressed={how === "whole"}
              onPress={() => lookAs("whole")}
              testID="library-whole"
            />
          </View>
        ) : null}
        {file && look.data ? (
          <View role="status" className="gap-2 border-l-4 border-harbour pl-3" testID="library-outlook">
            <Told outlook={look.data} next={next} />
            {look.data.already ? null : (
              <>
                <View className="max-w-105">
                  <Field label="Your name" value={name} change={setName} testID="library-who" />
                  <Field label="Why (may be left empty)" value={why} change={setWhy} testID="library-why" />
                </View>
              </>
            )}
            <View className="flex-row flex-wrap gap-2">
              {look.data.already ? null : (
                <Button
                  kind="solid"
                  label={save.isPending ? "Keeping it …" : `Make it version ${next}`}
                  disabled={save.isPending || name.trim() === ""}
                  onPress={take}
                  testID="library-take"
                />
              )}
              <Button label="Cancel" onPress={leave} testID="library-leave" />
            </View>
          </View>
        ) : null}
      </View>
    </div>
  );
}

const MOST_NAMED = 12;
const named = (numbers: readonly string[]): string =>
  numbers.length > MOST_NAMED
    ? `${numbers.slice(0, MOST_NAMED).join(", ")} and ${formatCount(numbers.length - MOST_NAMED)} more`
    : numbers.join(", ");

function Told({ outlook, next }: { outlook: LibraryOutlook; next: number }) {
  const { changes, parts, already, told } = outlook;
  if (already)
    return (
      <View>
        <Body>This is the library as it is now. Nothing would change.</Body>
        <HowRead told={told} />
      </View>
    );
  const lines: readonly (readonly [string, readonly string[]])[] = [
    ["new", changes.added],
    ["changed", changes.changed],
    ["gone", changes.gone],
  ];
  return (
    <View>
      <Head>
        Version {next} would have {formatCount(parts)} parts
      </Head>
      {lines.map(([word, numbers]) =>
        numbers.length === 0 ? null : (
          <Small key={word}>
            {formatCount(numbers.length)} {word}: {named(numbers)}
          </Small>
        ),
      )}
      <HowRead told={told} />
    </View>
  );
}

const MOST_LINES = 12;

/** What the columns of somebody else's table were read as, and what was not read. */
function HowRead({ told: { form, columns, ignored, notRead, notReadCount } }: { told: LibraryOutlook["told"] }) {
  if (form !== "other table") return null;
  return (
    <View className="gap-1" testID="library-read">
      <Small>Read as: {columns.map((c) => `${c.heading} = ${c.field}`).join(", ")}.</Small>
      {ignored.length > 0 ? <Small>Not taken: {ignored.join(", ")}.</Small> : null}
      {notRead.slice(0, MOST_LINES).map((n, i) => (
        <View key={i} className="flex-row gap-2">
          <View className="pt-0.5">
            <SeveritySign severity="check" />
          </View>
          <Small className="min-w-0 flex-1">
            {n.table}, line {n.line}
            {n.heading === null ? "" : `, ${n.heading}`}: {n.found}; wanted {n.wanted}
          </Small>
        </View>
      ))}
      {notReadCount > MOST_LINES ? <Small>and {formatCount(notReadCount - MOST_LINES)} more not read</Small> : null}
    </View>
  );
}
