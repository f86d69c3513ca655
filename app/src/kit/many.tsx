import { useCallback, useMemo, useState, type ReactNode } from "react";
import { View } from "react-native";
import { Button } from "./Button";
import { Small } from "./Text";

/** Several things chosen by their keys: a long press begins, a tap then adds one or takes it out. Null: none. */
export function useMany() {
  const [many, setMany] = useState<ReadonlySet<string> | null>(null);
  const toggle = useCallback((key: string) => {
    setMany((now) => {
      const next = new Set(now);
      if (!next.delete(key)) next.add(key);
      return next.size > 0 ? next : null;
    });
  }, []);
  const letGo = useCallback(() => setMany(null), []);
  return useMemo(() => ({ many, toggle, letGo }), [many, toggle, letGo]);
}

/** What can be done with the chosen ones, below the list. */
export function ManyBar({
  many,
  one,
  several,
  letGo,
  children,
}: {
  many: ReadonlySet<string>;
  /** `wire`, `wires` */
  one: string;
  several: string;
  letGo(): void;
  children: ReactNode;
}) {
  return (
    <View
      role="region"
      aria-label={`Chosen ${several}`}
      testID="many"
      className="flex-row flex-wrap items-center gap-2 border-t border-verdigris p-2"
    >
      <Small className="flex-1">{many.size === 1 ? `1 ${one} chosen` : `${many.size} ${several} chosen`}</Small>
      {children}
      <Button label="Let go" onPress={letGo} testID="many-done" />
    </View>
  );
}
