import { useSyncExternalStore } from "react";

/** The usual size of text in a browser, px. */
const USUAL_PX = 16;

/** A length that grows with the size of text a person has chosen; px beside text of the usual size. */
export const rem = (px: number): string => `${px / USUAL_PX}rem`;

const measured = (): number => {
  const px = parseFloat(getComputedStyle(document.documentElement).fontSize);
  return px > 0 ? px / USUAL_PX : 1;
};

let scale: number | null = null;

const hearers = new Set<() => void>();
let unfollow: (() => void) | null = null;

/** Follows a probe as wide as a letter: browsers send no event when the size of their text changes. One for all who listen. */
function follow(): () => void {
  const probe = document.createElement("div");
  probe.setAttribute("aria-hidden", "true");
  probe.style.cssText = "position:absolute;width:1rem;height:1rem;visibility:hidden;pointer-events:none;top:0;left:0";
  document.body.append(probe);
  const observer = new ResizeObserver(() => {
    scale = measured();
    for (const hear of hearers) hear();
  });
  observer.observe(probe);
  return () => {
    observer.disconnect();
    probe.remove();
  };
}

function subscribe(hear: () => void): () => void {
  hearers.add(hear);
  unfollow ??= follow();
  return () => {
    hearers.delete(hear);
    if (hearers.size > 0) return;
    unfollow?.();
    unfollow = null;
  };
}

/**
 * How much larger than usual the text is that this person has chosen in their browser: 1, or 2 at 200 %. What is laid
 * out by numbers (rows in a long list, tags in a drawing) is multiplied by it; what has a class grows by itself.
 */
export const useTextScale = (): number => useSyncExternalStore(subscribe, () => (scale ??= measured()));
