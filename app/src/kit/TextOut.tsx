import { setStringAsync } from "expo-clipboard";
import { useState } from "react";
import { View } from "react-native";
import Copy from "lucide-react-native/icons/copy";
import Download from "lucide-react-native/icons/download";
import Share2 from "lucide-react-native/icons/share-2";
import { Button } from "./Button";
import { useTokens } from "./settings";
import { Small } from "./Text";

/** A text taken out of the application: copied, handed to another program where the device can, or saved. */
export function TextOut({ text, fileName, title }: { text: string; fileName: string; title: string }) {
  const t = useTokens();
  const [said, setSaid] = useState("");
  const copy = () =>
    setStringAsync(text).then(
      () => setSaid("Copied."),
      () => setSaid("The browser does not let it be copied. Save it instead."),
    );
  const share = () =>
    navigator.share({ title, text }).then(
      () => setSaid(""),
      (error: Error) => setSaid(error.name === "AbortError" ? "" : "It could not be shared. Copy or save it instead."),
    );
  const save = () => {
    const url = URL.createObjectURL(new Blob([text], { type: "text/plain;charset=utf-8" }));
    const link = document.createElement("a");
    link.href = url;
    link.download = fileName;
    link.click();
    URL.revokeObjectURL(url);
    setSaid(`Saved as ${fileName}.`);
  };
  const icon = { size: 18, color: t.graphite };
  return (
    <View className="gap-1">
      <View className="flex-row flex-wrap gap-2">
        <Button label="Copy" icon={<Copy {...icon} />} onPress={() => void copy()} testID="text-copy" />
        {typeof navigator.share === "function" ? (
          <Button label="Share" icon={<Share2 {...icon} />} onPress={() => void share()} testID="text-share" />
        ) : null}
        <Button label="Save as text" icon={<Download {...icon} />} onPress={save} testID="text-save" />
      </View>
      <View role="status" testID="text-said">
        {said ? <Small>{said}</Small> : null}
      </View>
    </View>
  );
}
