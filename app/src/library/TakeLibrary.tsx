import type { JobSummary } from "@gray-bench/contract/jobs";
import { View } from "react-native";
import { Changes, Unfitting } from "../edits/Outlook";
import { Button, LinkLine } from "../kit/Button";
import { useSettings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useLibraryEffect, useTakeLibrary } from "../queries/useLibrary";

/** The library has another version than the one that completes a job: what it would do, and taking it over. */
export function TakeLibrary({ job }: { job: Pick<JobSummary, "code" | "libraryHash"> }) {
  const { name } = useSettings();
  const who = name || "no name given";
  const look = useLibraryEffect();
  const take = useTakeLibrary();
  const effect = look.data;
  return (
    <Tray className="gap-2 p-3" testID="take-library">
      <Body>
        {job.libraryHash === ""
          ? "The parts of this job are as its design says them: the library does not complete them yet."
          : "The library has a newer version than the one that completes the parts of this job."}
      </Body>
      {(look.error ?? take.error) ? <Failed error={look.error ?? take.error} /> : null}
      {effect ? (
        <View role="status" testID="library-effect" className="gap-1 border-l-4 border-harbour pl-3">
          <Changes things={effect.things} />
          <Unfitting edits={effect.unfitting} />
        </View>
      ) : null}
      <View className="flex-row flex-wrap items-center gap-2">
        <Button
          label={look.isPending ? "Looking …" : "See what it does"}
          disabled={look.isPending || take.isPending}
          onPress={() => look.mutate({ job: job.code, who })}
          testID="library-see"
        />
        {effect ? (
          <Button
            kind="solid"
            label="Take it over"
            disabled={take.isPending}
            onPress={() => take.mutate({ job: job.code, who })}
            testID="library-take-over"
          />
        ) : null}
        <LinkLine href="/library" label="The library" />
      </View>
    </Tray>
  );
}
