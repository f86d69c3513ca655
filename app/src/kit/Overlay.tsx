import { useEffect, useRef, type ReactNode } from "react";
import { createPortal } from "react-dom";
import { ScrollView, View } from "react-native";
import X from "lucide-react-native/icons/x";
import { Button } from "./Button";
import { Title } from "./Text";
import { useTokens } from "./settings";
import { useKeys } from "./useKeys";

/** A sheet over the view, closed by its button, by Escape or by a tap beside it. The focus moves into it and back. */
export function Overlay({
  title,
  close,
  children,
  testID,
}: {
  title: string;
  close: () => void;
  children: ReactNode;
  testID: string;
}) {
  const t = useTokens();
  const box = useRef<View>(null);
  useKeys({ Escape: close }, true);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    const node = box.current as unknown as HTMLElement | null;
    // Where the work is: the first field, else the first control; the close button only when nothing else is there.
    const first = ["[data-content] :is(input, select)", "[data-content] :is(button, [role=button], a)", "button"]
      .map((where) => node?.querySelector<HTMLElement>(where))
      .find((found) => found);
    first?.focus();
    return () => before?.focus?.();
  }, []);
  // Over everything, wherever in the page it was asked for.
  return createPortal(
    <div style={{ position: "fixed", inset: 0, zIndex: 50, display: "flex", flexDirection: "column" }}>
      <View className="absolute inset-0 items-center md:py-[60px]">
        <div aria-hidden onClick={close} className="absolute inset-0 bg-graphite opacity-40" />
        <View
          ref={box}
          testID={testID}
          role="dialog"
          aria-label={title}
          aria-modal
          className="max-h-full w-full max-w-[640px] border-b border-line bg-paper md:rounded-[3px] md:border"
        >
          <View className="flex-row items-center justify-between border-b border-line px-3 py-1">
            <Title>{title}</Title>
            <Button
              label="Close"
              bare
              icon={<X size={20} color={t.graphite} />}
              onPress={close}
              testID={`${testID}-close`}
            />
          </View>
          <ScrollView>
            <div data-content>{children}</div>
          </ScrollView>
        </View>
      </View>
    </div>,
    document.body,
  );
}
