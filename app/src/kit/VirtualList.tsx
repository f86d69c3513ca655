import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, type ReactNode } from "react";
import { useTextScale } from "./textScale";

interface Props {
  count: number;
  /** Height of a row, px beside text of the usual size. */
  rowPx: number;
  row(index: number): ReactNode;
  keyOf(index: number): string;
  /** Kept in sight when it changes; −1 for none. */
  chosen: number;
  label: string;
  testID: string;
}

const OVERSCAN = 12;

/** A long list of which only the rows in sight are there. */
export function VirtualList({ count, rowPx, row, keyOf, chosen, label, testID }: Props) {
  const px = rowPx * useTextScale();
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => px,
    overscan: OVERSCAN,
    getItemKey: keyOf,
  });
  useEffect(() => list.measure(), [px, list]);
  useEffect(() => {
    if (chosen >= 0) list.scrollToIndex(chosen, { align: "auto" });
  }, [chosen, list]);
  return (
    <div
      ref={box}
      data-testid={testID}
      role="region"
      aria-label={label}
      tabIndex={0}
      style={{ flex: 1, minHeight: 0, overflowY: "auto", contain: "strict" }}
    >
      <div role="list" style={{ height: list.getTotalSize(), position: "relative" }}>
        {list.getVirtualItems().map((item) => (
          <div
            key={item.key}
            role="listitem"
            aria-setsize={count}
            aria-posinset={item.index + 1}
            style={{
              position: "absolute",
              top: 0,
              left: 0,
              right: 0,
              height: px,
              transform: `translateY(${item.start}px)`,
            }}
          >
            {row(item.index)}
          </div>
        ))}
      </div>
    </div>
  );
}
