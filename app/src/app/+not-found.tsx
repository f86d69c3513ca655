import { View } from "react-native";
import { LinkLine } from "../kit/Button";
import { Shell } from "../shell/Shell";
import { Empty } from "../kit/States";

export default function NotFound() {
  return (
    <Shell title="Not found">
      <Empty title="There is no such view" text="The address may be mistyped, or the job was deleted." />
      <View className="px-4">
        <LinkLine href="/" label="All jobs" />
      </View>
    </Shell>
  );
}
