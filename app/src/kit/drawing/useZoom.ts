import { select } from "d3-selection";
import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomBehavior, type ZoomTransform } from "d3-zoom";
import { useCallback, useEffect, useRef, useState } from "react";

/** Scale and shift from sheet to screen: px = sheet · k + (x, y). */
export interface View {
  k: number;
  x: number;
  y: number;
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Room left free around what is fitted, as a share of the view. */
const MARGIN = 0.06;
/** The drawing is redrawn while moving once it has gone this share of the view, or this factor of scale. */
const REDRAW_SHIFT = 0.45;
const REDRAW_SCALE = 1.6;
/** A press that moves less than this is a tap, px. */
export const TAP_PX = 6;

export function fitTo(box: Box, width: number, height: number): View {
  const k = Math.min((width * (1 - 2 * MARGIN)) / Math.max(box.w, 1), (height * (1 - 2 * MARGIN)) / Math.max(box.h, 1));
  return { k, x: width / 2 - k * (box.x + box.w / 2), y: height / 2 - k * (box.y + box.h / 2) };
}

/**
 * Pan and zoom by touch, mouse and wheel. While a gesture lasts only a style transform of the drawn
 * layer changes, which the browser composes without drawing anew; when it rests, or has gone far, the
 * layer is drawn for the new view, so that lines keep their weight.
 * @param first where it stands at first; null: fitted in
 */
export function useZoom(width: number, height: number, sheet: Box, first: View | null = null) {
  const surface = useRef<HTMLDivElement | null>(null);
  const layer = useRef<HTMLDivElement | null>(null);
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown> | null>(null);
  const [view, setView] = useState<View>(() => first ?? fitTo(sheet, width, height));
  const drawn = useRef(view);
  /** Something on the drawing is held: the drawing stays. */
  const holding = useRef(false);

  // After every drawing the layer lies where it was drawn for.
  useEffect(() => {
    drawn.current = view;
    if (layer.current) layer.current.style.transform = "none";
  }, [view]);

  useEffect(() => {
    const node = surface.current;
    if (!node) return;
    const fit = fitTo(sheet, width, height).k;
    let rest: ReturnType<typeof setTimeout> | undefined;
    const commit = (t: ZoomTransform): void => setView({ k: t.k, x: t.x, y: t.y });
    const z = zoom<HTMLDivElement, unknown>()
      .scaleExtent([fit / 3, Math.max(12, fit * 4)])
      .clickDistance(TAP_PX)
      .filter((e: MouseEvent) => !holding.current && (!e.ctrlKey || e.type === "wheel") && !e.button)
      // Two taps, or clicks, draw larger where they are; with Shift smaller. At once: nothing glides.
      .duration(0)
      .on("zoom", (event: D3ZoomEvent<HTMLDivElement, unknown>) => {
        const t = event.transform;
        const from = drawn.current;
        const scale = t.k / from.k;
        const dx = t.x - from.x * scale;
        const dy = t.y - from.y * scale;
        if (layer.current) layer.current.style.transform = `translate(${dx}px, ${dy}px) scale(${scale})`;
        const far = Math.abs(t.x - from.x) > width * REDRAW_SHIFT || Math.abs(t.y - from.y) > height * REDRAW_SHIFT;
        clearTimeout(rest);
        if (!event.sourceEvent || far || scale > REDRAW_SCALE || scale < 1 / REDRAW_SCALE) commit(t);
        else rest = setTimeout(() => commit(t), 120);
      })
      .on("end", (event: D3ZoomEvent<HTMLDivElement, unknown>) => {
        clearTimeout(rest);
        const { type } = (event.sourceEvent ?? {}) as Event;
        if (type === "wheel") rest = setTimeout(() => commit(event.transform), 120);
        else commit(event.transform);
      });
    behaviour.current = z;
    const sel = select(node);
    sel.call(z);
    const start = drawn.current;
    sel.call(z.transform, zoomIdentity.translate(start.x, start.y).scale(start.k));
    return () => {
      clearTimeout(rest);
      sel.on(".zoom", null);
    };
  }, [width, height, sheet]);

  const showBox = useCallback(
    (box: Box) => {
      const node = surface.current;
      if (!node || !behaviour.current) return;
      const to = fitTo(box, width, height);
      select(node).call(behaviour.current.transform, zoomIdentity.translate(to.x, to.y).scale(to.k));
    },
    [width, height],
  );

  const scaleBy = useCallback((factor: number) => {
    if (surface.current && behaviour.current) select(surface.current).call(behaviour.current.scaleBy, factor);
  }, []);

  /** By pixels of the screen. */
  const moveBy = useCallback((dx: number, dy: number) => {
    if (!surface.current || !behaviour.current) return;
    const { k } = drawn.current;
    select(surface.current).call(behaviour.current.translateBy, dx / k, dy / k);
  }, []);

  /** Brings a point of the sheet into the middle. */
  const goTo = useCallback((x: number, y: number) => {
    if (surface.current && behaviour.current) select(surface.current).call(behaviour.current.translateTo, x, y);
  }, []);

  return { surface, layer, view, holding, showBox, scaleBy, moveBy, goTo };
}
