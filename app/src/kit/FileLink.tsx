import FileDown from "lucide-react-native/icons/file-down";
import { View } from "react-native";
import { Body } from "./Text";
import { useTokens } from "./settings";

/** A real link that takes a file away. */
export function FileLink({ href, label, testID }: { href: string; label: string; testID: string }) {
  const t = useTokens();
  return (
    <a href={href} download data-testid={testID} style={{ textDecoration: "none" }}>
      <View className="min-h-touch flex-row items-center gap-2 rounded-edge border border-line bg-paper px-3">
        <FileDown size={18} color={t.harbour} />
        <Body className="text-harbour underline">{label}</Body>
      </View>
    </a>
  );
}
