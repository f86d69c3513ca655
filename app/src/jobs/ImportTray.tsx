import { router } from "expo-router";
import { useState } from "react";
import { useDropzone } from "react-dropzone";
import { View } from "react-native";
import Upload from "lucide-react-native/icons/upload";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { jobHref } from "../kit/links";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { TextOut } from "../kit/TextOut";
import { useTokens } from "../kit/settings";
import { faultText } from "./faultText";
import { useImport } from "./useJobs";

/** Takes a design file by picker or by dropping it, and shows why one is refused. */
export function ImportTray() {
  const t = useTokens();
  const take = useImport();
  const [name, setName] = useState("");
  const [already, setAlready] = useState<string | null>(null);
  const open = (files: File[]) => {
    const file = files[0];
    if (!file) return;
    setName(file.name);
    setAlready(null);
    take.mutate(file, {
      onSuccess: (reply) => (reply.already ? setAlready(reply.job.code) : router.push(jobHref(reply.job.code))),
    });
  };
  const zone = useDropzone({ onDrop: open, multiple: false, noClick: true, noKeyboard: true });
  return (
    <div {...zone.getRootProps()} data-testid="drop">
      <View
        className={`gap-2 rounded-[3px] border border-dashed p-3 ${zone.isDragActive ? "border-verdigris bg-tray" : "border-slate"}`}
      >
        <input {...zone.getInputProps({ "aria-label": "Design file" })} data-testid="file-input" />
        <View className="flex-row flex-wrap items-center gap-3">
          <Button
            kind="solid"
            testID="open-file"
            label={take.isPending ? "Reading …" : "Open a design file"}
            disabled={take.isPending}
            icon={<Upload size={18} color={t.onVerdigris} />}
            onPress={zone.open}
          />
          <Small className="flex-1">
            {zone.isDragActive ? "Let go to open it." : "or drop it here. Design files end in .bench.json"}
          </Small>
        </View>
        {already ? (
          <View role="status" testID="already">
            <Body>
              {name} is the same design that job {already} already has. Nothing was changed.
            </Body>
          </View>
        ) : null}
        {take.error ? <Refusal name={name} error={take.error} /> : null}
      </View>
    </div>
  );
}

function Refusal({ name, error }: { name: string; error: Error }) {
  if (!(error instanceof ApiError) || !error.body.faults) return <Failed error={error} />;
  const { faults, faultCount = faults.length, remedy, message } = error.body;
  return (
    <View role="alert" testID="refusal" className="gap-2 border-l-4 border-brick pl-3">
      <Head>{name}</Head>
      <Body>{message}</Body>
      <Small>{remedy}</Small>
      <TextOut
        text={faultText(name, error.body)}
        fileName={`${name.replace(/(\.bench)?\.json$/, "")}-faults.txt`}
        title={`${name} was refused`}
      />
      <View role="list">
        {faults.map((f, i) => (
          <View key={i} role="listitem" className="border-t border-line py-2">
            <Mono className="break-all">{f.path}</Mono>
            <Body>found {f.found}</Body>
            <Small>expected {f.expected}</Small>
          </View>
        ))}
      </View>
      {faultCount > faults.length ? <Small>and {faultCount - faults.length} more</Small> : null}
    </View>
  );
}
