import { useRef, type ReactNode } from "react";

const HOLD_MS = 500;
/** A finger that moves farther scrolls. */
const STILL_PX = 10;

/** Hears a long press on what lies within, which then is no tap; links and buttons alike. */
export function Hold({ held, children }: { held: (() => void) | undefined; children: ReactNode }) {
  const press = useRef<{ timer: ReturnType<typeof setTimeout>; x: number; y: number } | null>(null);
  const done = useRef(false);
  const end = (): void => {
    if (press.current) clearTimeout(press.current.timer);
    press.current = null;
  };
  if (!held) return <>{children}</>;
  return (
    <div
      onPointerDown={(e) => {
        end();
        done.current = false;
        const timer = setTimeout(() => {
          done.current = true;
          held();
        }, HOLD_MS);
        press.current = { timer, x: e.clientX, y: e.clientY };
      }}
      onPointerMove={(e) => {
        const p = press.current;
        if (p && Math.hypot(e.clientX - p.x, e.clientY - p.y) > STILL_PX) end();
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onContextMenu={(e) => {
        if (done.current || press.current) e.preventDefault();
      }}
      onClickCapture={(e) => {
        if (!done.current) return;
        done.current = false;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      {children}
    </div>
  );
}
