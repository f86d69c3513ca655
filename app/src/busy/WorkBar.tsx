import { router } from "expo-router";
import Hourglass from "lucide-react-native/icons/hourglass";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Overlay } from "../kit/Overlay";
import { useSettings } from "../kit/settings";
import { Body, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { useFollowed } from "./computing";
import { forget, useWork, type Work } from "./work";

const WORD: Record<Work["state"], string> = {
  running: "under way",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

/** One button in the frame for all that takes its time, while there is any: how much is under way, and what has ended unseen. */
export function WorkBar({ job }: { job: string | undefined }) {
  useFollowed(job);
  const wide = useWide();
  const { tokens } = useSettings();
  const [isOpen, setOpen] = useState(false);
  const all = useWork();
  if (all.length === 0) return null;
  const running = all.filter((w) => w.state === "running");
  const ended = all.length - running.length;
  const first = running[0];
  const percent = first === undefined || first.share === null ? "" : ` ${Math.round(first.share * 100)} %`;
  const said =
    running.length === 1 ? `${first!.what}${percent}` : running.length > 1 ? `${running.length} under way` : "";
  const label = [said, ended > 0 ? `${ended} ended` : ""].filter((s) => s !== "").join(", ");
  return (
    <>
      <Button
        label={`Work: ${label}`}
        text={label}
        bare={!wide}
        icon={<Hourglass size={20} color={running.length > 0 ? tokens.graphite : tokens.verdigris} />}
        onPress={() => setOpen(true)}
        testID="work"
      />
      {isOpen ? <WorkPanel all={all} close={() => setOpen(false)} /> : null}
    </>
  );
}

function WorkPanel({ all, close }: { all: readonly Work[]; close(): void }) {
  return (
    <Overlay title="What is under way" close={close} testID="work-panel">
      <View role="list" className="p-3">
        {[...all].reverse().map((w) => (
          <View key={w.id} role="listitem" className="gap-2 border-b border-line py-2" testID={`work-${w.id}`}>
            <Body>{w.what}</Body>
            <View role="status">
              <Small>
                {WORD[w.state]}
                {w.share === null ? "" : `, ${Math.round(w.share * 100)} %`}
                {w.told === "" ? "" : `. ${w.told}`}
              </Small>
            </View>
            <View className="flex-row flex-wrap gap-2">
              {w.cancel ? <Button label="Cancel" onPress={w.cancel} testID={`work-cancel-${w.id}`} /> : null}
              {w.href && w.state !== "running" ? (
                <Button
                  label="See it"
                  onPress={() => {
                    forget(w.id);
                    close();
                    router.push(w.href!);
                  }}
                  testID={`work-see-${w.id}`}
                />
              ) : null}
              {w.state === "running" ? null : (
                <Button label="Close" onPress={() => forget(w.id)} testID={`work-close-${w.id}`} />
              )}
            </View>
          </View>
        ))}
      </View>
    </Overlay>
  );
}
