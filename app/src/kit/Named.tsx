import X from "lucide-react-native/icons/x";
import type { ReactNode } from "react";
import { View } from "react-native";
import { Button } from "./Button";
import { choose } from "./choice";
import { keepTags } from "./format";
import { useTokens } from "./settings";
import { Small } from "./Text";

/** A thing the address names, by the name of its place there: `{ param: "wire", what: "wire", name: "214", there: true }`. */
export interface NamedThing {
  param: string;
  what: string;
  name: string | undefined;
  there: boolean;
}

const GONE = "It may have been renamed, deleted or left out by an option, or stand in another revision.";

/** A view, under the word that what its address names is not there, where it is not: else the view would stand there as if nothing had been asked. */
export function Named({
  things,
  remedy = GONE,
  children,
}: {
  things: readonly NamedThing[];
  /** What may have become of it, and what to do. */
  remedy?: string;
  children: ReactNode;
}) {
  const t = useTokens();
  const gone = things.find(({ name, there }) => name !== undefined && !there);
  return (
    <View className="min-h-0 flex-1">
      {gone ? (
        <View
          role="status"
          testID="not-here"
          className="flex-row items-center gap-2 border-b border-ochre bg-tray py-1 pl-3 pr-1"
        >
          <Small className="min-w-0 flex-1 font-medium text-ochre">
            {keepTags(`There is no ${gone.what} ${gone.name} here. ${remedy}`)}
          </Small>
          <Button
            bare
            label="Close"
            icon={<X size={18} color={t.graphite} />}
            onPress={() => choose({ [gone.param]: undefined })}
            testID="not-here-close"
          />
        </View>
      ) : null}
      {children}
    </View>
  );
}
