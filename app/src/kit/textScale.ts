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

/** Follows a probe as wide as a letter: browsers send no event when the size of their text changes. */
function subscribe(hear: () => void): () => void {
  const probe = document.createElement("div");
  probe.setAttribute("aria-hidden", "true");
  probe.style.cssText = "position:absolute;width:1rem;height:1rem;visibility:hidden;pointer-events:none;top:0;left:0";
  document.body.append(probe);
  const observer = new ResizeObserver(() => {
    scale = measured();
    hear();
  });
  observer.observe(probe);
  return () => {
    observer.disconnect();
    probe.remove();
  };
}

/**
 * How much larger than usual the text is that this person has chosen in their browser: 1, or 2 at 200 %. What is laid
 * out by numbers (rows in a long list, tags in a drawing) is multiplied by it; what has a class grows by itself.
 */
export const useTextScale = (): number => useSyncExternalStore(subscribe, () => (scale ??= measured()));
