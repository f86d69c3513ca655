import { createFocusTrap } from "focus-trap";
import { useEffect, useRef, type ReactNode } from "react";
import { createPortal } from "react-dom";
import { ScrollView, View } from "react-native";
import X from "lucide-react-native/icons/x";
import { Button } from "./Button";
import { cameAnew } from "./focus";
import { Title } from "./Text";
import { useTokens } from "./settings";
import { useKeys } from "./useKeys";

/**
 * A sheet over the view, closed by its button, by Escape or by a tap beside it. The focus moves into it, stays there going round, and moves
 * back; what lies behind can neither be reached nor read out meanwhile.
 */
export function Overlay({
  title,
  close,
  children,
  testID,
  leads = () => false,
}: {
  title: string;
  close: () => void;
  children: ReactNode;
  testID: string;
  /** Asked as it goes: whether something was chosen in it that is shown now, and has the focus. */
  leads?: () => boolean;
}) {
  const t = useTokens();
  const box = useRef<View>(null);
  const layer = useRef<HTMLDivElement>(null);
  const leading = useRef(leads);
  useEffect(() => {
    leading.current = leads;
  });
  useKeys({ Escape: close }, true);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    const node = box.current as unknown as HTMLElement;
    const behind = [...document.body.children].filter(
      (e): e is HTMLElement => e instanceof HTMLElement && e !== layer.current && !e.inert,
    );
    for (const e of behind) e.inert = true;
    const trap = createFocusTrap(node, {
      // Where the work is: the first field, else the first control; the close button only when nothing else is there.
      initialFocus: () =>
        ["[data-content] :is(input, select)", "[data-content] :is(button, [role=button], a)", "button"]
          .map((where) => node.querySelector<HTMLElement>(where))
          .find((found) => found !== null) ?? node,
      fallbackFocus: node,
      escapeDeactivates: false,
      allowOutsideClick: true,
      returnFocusOnDeactivate: false,
      delayInitialFocus: false,
    }).activate();
    return () => {
      trap.deactivate();
      for (const e of behind) e.inert = false;
      if (leading.current()) cameAnew();
      else before?.focus();
    };
  }, []);
  // Over everything, wherever in the page it was asked for.
  return createPortal(
    <div ref={layer} style={{ position: "fixed", inset: 0, zIndex: 50, display: "flex", flexDirection: "column" }}>
      <View className="absolute inset-0 items-center md:py-15">
        <div aria-hidden onClick={close} className="absolute inset-0 bg-graphite opacity-40" />
        <View
          ref={box}
          testID={testID}
          role="dialog"
          tabIndex={-1}
          aria-label={title}
          aria-modal
          className="max-h-full w-full max-w-160 border-b border-line bg-paper md:rounded-edge md:border"
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
