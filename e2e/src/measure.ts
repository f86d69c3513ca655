import type { WebDriver } from "selenium-webdriver";

/** What a page may be measured by. */
export interface Bounds {
  /** The least height and width of what is tapped, px. */
  targetPx: number;
  /** The smallest text, px. */
  textPx: number;
}

/** Something on a page that an eye or a hand would miss. */
export interface Fault {
  kind: "sideways" | "cut" | "covered" | "small text" | "small target" | "overlap";
  what: string;
}

/**
 * Measures the page as it stands: whether it scrolls sideways; texts that are cut with no way to read them, that
 * something lies over, or that are too small; what is tapped and too small for a finger; written tags of a drawing that
 * lie on each other. What is out of sight, inert or hidden is not measured.
 */
export const measure = (driver: WebDriver, bounds: Bounds): Promise<Fault[]> =>
  driver.executeScript<Fault[]>(measured, bounds.targetPx, bounds.textPx);

/** Runs in the page: stands alone, with no name from outside of it. */
function measured(targetPx: number, textPx: number): Fault[] {
  const faults: Fault[] = [];
  const tell = (kind: Fault["kind"], what: string): void => {
    if (faults.length < 200) faults.push({ kind, what });
  };
  const root = document.scrollingElement ?? document.documentElement;
  const { clientWidth: width, clientHeight: height } = document.documentElement;
  if (root.scrollWidth > width + 1) tell("sideways", `${root.scrollWidth} px in ${width}`);

  interface Rect {
    left: number;
    top: number;
    right: number;
    bottom: number;
  }
  const meet = (a: Rect, b: Rect): Rect => ({
    left: Math.max(a.left, b.left),
    top: Math.max(a.top, b.top),
    right: Math.min(a.right, b.right),
    bottom: Math.min(a.bottom, b.bottom),
  });
  /** What is seen of an element: of the window, less what its frames cut off. */
  const clipOf = (el: Element): Rect => {
    let seen: Rect = { left: 0, top: 0, right: width, bottom: height };
    for (let up = el.parentElement; up && up !== document.body; up = up.parentElement) {
      const s = getComputedStyle(up);
      if (s.overflowX !== "visible" || s.overflowY !== "visible") seen = meet(seen, up.getBoundingClientRect());
      if (s.position === "fixed") break;
    }
    return seen;
  };
  const isShown = (el: Element): boolean =>
    !el.closest("[inert], [aria-hidden=true], .skip") &&
    el.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true });
  const nameOf = (el: Element): string => {
    const id = el.closest("[data-testid]")?.getAttribute("data-testid") ?? el.tagName.toLowerCase();
    const text = (el.getAttribute("aria-label") ?? el.textContent ?? "").trim().replace(/\s+/g, " ");
    return `${id}: ${text.slice(0, 60)}`;
  };
  const textOf = (el: Element): Rect[] => {
    const range = document.createRange();
    range.selectNodeContents(el);
    return Array.from(range.getClientRects()).filter((r) => r.width > 1 && r.height > 1);
  };

  const leaves = Array.from(document.body.querySelectorAll("*")).filter(
    (el) =>
      !["SCRIPT", "STYLE", "OPTION", "NOSCRIPT"].includes(el.tagName) &&
      Array.from(el.childNodes).some((n) => n.nodeType === 3 && (n.textContent ?? "").trim() !== ""),
  );
  const written = new Map<Element, { el: Element; rect: Rect }[]>();
  leaf: for (const el of leaves) {
    if (!isShown(el)) continue;
    const style = getComputedStyle(el);
    // Said to those who hear the page only.
    if ((el as HTMLElement).clientWidth === 1 && (el as HTMLElement).clientHeight === 1) continue;
    const svg = el instanceof SVGElement ? el.closest("svg") : null;
    const clip = clipOf(svg ?? el);
    const rects = svg ? [el.getBoundingClientRect()] : textOf(el);
    const first = rects[0];
    if (!first) continue;
    const isClipped = style.overflowX !== "visible" && !svg;
    const seen = meet(first, isClipped ? meet(clip, el.getBoundingClientRect()) : clip);
    // Text of which less than a line is seen stands at an edge that scrolls.
    if (seen.right - seen.left < 4 || seen.bottom - seen.top < (first.bottom - first.top) * 0.7) continue;
    const grown = svg ? ((el as SVGGraphicsElement).getScreenCTM()?.d ?? 1) : 1;
    const size = parseFloat(style.fontSize) * Math.abs(svg && grown !== 0 ? grown : 1);
    if (size < textPx - 0.1) tell("small text", `${nameOf(el)} · ${size.toFixed(1)} px`);
    if (svg) {
      written.set(svg, [...(written.get(svg) ?? []), { el, rect: first }]);
    } else {
      const box = el as HTMLElement;
      const hides = style.overflowX !== "visible" && style.overflowX !== "auto" && style.overflowX !== "scroll";
      const isCut =
        hides &&
        (box.scrollWidth > box.clientWidth + 1 || box.scrollHeight > box.clientHeight + 3) &&
        box.clientWidth > 0;
      // In a row that opens what it names the whole is one tap away; else it can be read where it is pointed at.
      const opens = el.closest("a, button, [role=button], [role=checkbox], [role=link], label");
      const dots = style.textOverflow === "ellipsis" || style.webkitLineClamp !== "none";
      if (isCut && !(dots && opens) && !el.closest("[title]")) tell("cut", nameOf(el));
      let up = el.parentElement;
      for (; up; up = up.parentElement) {
        if (up === document.body || getComputedStyle(up).position === "fixed") {
          if (rects.some((r) => r.right > width + 2)) tell("sideways", nameOf(el));
          break;
        }
        const s = getComputedStyle(up);
        const scrolls = [s.overflowX, s.overflowY].some((o) => o === "auto" || o === "scroll");
        if (scrolls) break;
        if (s.overflowX === "visible" && s.overflowY === "visible") continue;
        const frame = up.getBoundingClientRect();
        if (rects.some((r) => r.right > frame.right + 2 || r.bottom > frame.bottom + 4) && !isCut)
          tell("cut", nameOf(el));
        break;
      }
    }
    // What lets taps through is not found where it lies.
    if (style.pointerEvents === "none") continue;
    const [x, y] = [(seen.left + seen.right) / 2, (seen.top + seen.bottom) / 2];
    const top = document.elementFromPoint(x, y);
    // A head that stays where it is while rows go on below it.
    for (let up = top; up; up = up.parentElement) if (getComputedStyle(up).position === "sticky") continue leaf;
    const mine = svg ?? el;
    // A drawing takes what is done on it at its surface: that lies over its texts and hides none.
    const surface = svg?.parentElement ?? null;
    if (top && !mine.contains(top) && !top.contains(mine) && !surface?.contains(top) && !isSeenThrough(top, mine))
      tell("covered", `${nameOf(el)} · by ${nameOf(top)}`);
  }
  /** Something that is seen through. */
  function isSeenThrough(top: Element, of: Element): boolean {
    const s = getComputedStyle(top);
    const clear = s.backgroundColor === "rgba(0, 0, 0, 0)" || s.backgroundColor === "transparent";
    return clear && (top.textContent ?? "").trim() === "" && !(top instanceof SVGElement && of instanceof SVGElement);
  }
  for (const [, texts] of written) {
    const apart = texts.filter(({ el }) => (el.textContent ?? "").trim().length > 0);
    for (const [i, a] of apart.entries())
      for (const b of apart.slice(i + 1)) {
        const m = meet(a.rect, b.rect);
        if (m.right - m.left > 3 && m.bottom - m.top > 5) tell("overlap", `${nameOf(a.el)} on ${nameOf(b.el)}`);
      }
  }
  const tapped = document.body.querySelectorAll(
    "a[href], button, input:not([type=hidden]), select, textarea, [role=button], [role=checkbox], [role=tab], [role=radio], [role=switch]",
  );
  for (const el of Array.from(tapped)) {
    if (!isShown(el) || el.getAttribute("aria-disabled") === "true") continue;
    // A label takes the tap for what stands in it; a link within a sentence is as high as its line.
    const target = el.closest("label") ?? el;
    const within =
      el.tagName === "A" && getComputedStyle(el).display === "inline" && el.parentElement?.childNodes.length !== 1;
    const r = target.getBoundingClientRect();
    const seen = meet(r, clipOf(el));
    if (within || r.width < 2 || r.height < 2 || seen.right - seen.left < r.width - 1) continue;
    if (seen.bottom - seen.top < r.height - 1) continue;
    if (r.width < targetPx - 0.5 || r.height < targetPx - 0.5)
      tell("small target", `${nameOf(el)} · ${Math.round(r.width)}×${Math.round(r.height)} px`);
  }
  return faults;
}
