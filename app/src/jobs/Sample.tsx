import { router } from "expo-router";
import { useMutation } from "@tanstack/react-query";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { jobHref } from "../kit/links";
import { Failed } from "../kit/States";
import { Small } from "../kit/Text";
import { useImport } from "../queries/useJobs";

/** Where the sample lies beside the application. */
const SAMPLE = "/sample.bench.json";

/** A small job to look around in, opened in one tap: for whoever has no files at hand. */
export function Sample() {
  const take = useImport();
  const open = useMutation({
    mutationFn: async () => {
      const reply = await fetch(SAMPLE);
      if (!reply.ok) throw new Error(`The sample is not there (${reply.status}). Open a file of your own.`);
      const file = new File([await reply.blob()], "sample.bench.json");
      // Awaited here: as soon as the list has a job this button is gone, and what hangs on it is called no more.
      const { job } = await take.mutateAsync({ file, signal: new AbortController().signal });
      router.push(jobHref(job.code));
    },
  });
  return (
    <View className="items-start gap-1 px-4">
      <Button
        label={open.isPending ? "Opening the sample …" : "Try it with a sample"}
        disabled={open.isPending}
        onPress={() => open.mutate()}
        testID="sample"
      />
      <Small>A dome rotator in one wall box, 35 wires. It is deleted like any other job.</Small>
      {open.error ? <Failed error={open.error} /> : null}
    </View>
  );
}
