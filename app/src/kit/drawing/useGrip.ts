import { useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import type { Dragger } from "./props";
import { TAP_PX, type View } from "./useZoom";

interface Press {
  pointer: number;
  x: number;
  y: number;
  isMoved: boolean;
}

/**
 * Presses of a drawing on which something can be dragged. A press that takes hold of something moves that and not the
 * drawing; one that stays where it is is a tap; Escape, a second finger and a lost pointer put it back. With Alt it is
 * moved freely.
 * @param holding told to whoever pans the drawing
 */
export function useGrip(drag: Dragger | undefined, view: View, holding: RefObject<boolean>) {
  const press = useRef<Press | null>(null);
  const dragged = useRef(false);
  const [isMoving, setMoving] = useState(false);
  const dragger = useRef(drag);
  useEffect(() => {
    dragger.current = drag;
  });
  const end = (isDropped: boolean): void => {
    const was = press.current;
    press.current = null;
    holding.current = false;
    if (!was?.isMoved) return;
    setMoving(false);
    dragged.current = true;
    if (isDropped) dragger.current?.drop();
    else dragger.current?.cancel();
  };
  const handlers = {
    onPointerDown(e: PointerEvent<HTMLDivElement>): void {
      dragged.current = false;
      if (press.current) return end(false);
      if (!drag || !e.isPrimary || e.button !== 0) return;
      const box = e.currentTarget.getBoundingClientRect();
      const [x, y] = [(e.clientX - box.left - view.x) / view.k, (e.clientY - box.top - view.y) / view.k];
      if (!drag.takes(x, y, view.k)) return;
      press.current = { pointer: e.pointerId, x: e.clientX, y: e.clientY, isMoved: false };
      holding.current = true;
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove(e: PointerEvent<HTMLDivElement>): void {
      const now = press.current;
      if (!now || now.pointer !== e.pointerId) return;
      const [dx, dy] = [e.clientX - now.x, e.clientY - now.y];
      if (!now.isMoved && Math.hypot(dx, dy) < TAP_PX) return;
      if (!now.isMoved) setMoving(true);
      now.isMoved = true;
      drag?.move(dx / view.k, dy / view.k, view.k, e.altKey);
    },
    onPointerUp(e: PointerEvent<HTMLDivElement>): void {
      if (press.current?.pointer === e.pointerId) end(true);
    },
    onPointerCancel: (): void => end(false),
  };
  return {
    handlers,
    isMoving,
    /** Puts back what is held. */
    cancel: (): void => end(false),
    /** Whether the click that comes now ends a drag: then it is no tap. */
    wasDragged: (): boolean => dragged.current,
  };
}
