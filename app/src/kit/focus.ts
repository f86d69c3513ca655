import { usePathname } from "expo-router";
import { useEffect } from "react";

/** So many places that had the focus are remembered. */
const REMEMBERED = 16;

/** Headings in the order in which one is looked for: that of the details, then that of the view, then the view itself. */
const CAME = ['[aria-label="Details"] :is([role=heading], h1, h2, h3)', "main :is([role=heading], h1, h2)", "main"];

/** A place the focus goes back to: nothing in which letters are typed, as keys of the page would be lost in it. */
const isPlace = (e: HTMLElement): boolean =>
  e.isConnected &&
  !e.matches("input, textarea, select") &&
  e.closest("[inert]") === null &&
  !e.hasAttribute("disabled");

const trail: HTMLElement[] = [];
let came = false;
let asked = false;

const isNowhere = (): boolean => {
  const now = document.activeElement;
  return now === null || now === document.body;
};

/** Takes the focus without moving the page. */
function take(e: HTMLElement): void {
  if (e.tabIndex < 0 && !e.hasAttribute("tabindex")) e.setAttribute("tabindex", "-1");
  e.focus({ preventScroll: true });
}

function settle(): void {
  asked = false;
  if (!isNowhere() || document.querySelector("[aria-modal=true]")) return;
  const last = trail.at(-1);
  if (last === undefined ? !came : last.isConnected && !came) return;
  const before = came ? undefined : trail.findLast(isPlace);
  const heading = CAME.map((where) => document.querySelector<HTMLElement>(where)).find((e) => e !== null);
  const to = before ?? heading;
  if (to) take(to);
}

/** Looks after the focus when the page stands as it will be shown. */
function lookAfter(): void {
  if (asked) return;
  asked = true;
  requestAnimationFrame(settle);
}

/** Something else is shown from now on: a focus that is nowhere goes to its heading, also when that comes later. */
export function cameAnew(): void {
  came = true;
  lookAfter();
}

/**
 * Keeps the focus in the page. Where it stood on something that went, it goes to the last place that still stands; in another view, and
 * after something was chosen in a sheet that closed, to the heading of what came. Until a key or a pointer is used again that heading may
 * come late. Nothing is scrolled.
 */
export function useFocusKept(): void {
  const path = usePathname();
  useEffect(() => {
    const entered = ({ target }: FocusEvent): void => {
      if (!(target instanceof HTMLElement)) return;
      trail.push(target);
      if (trail.length > REMEMBERED) trail.shift();
    };
    const used = (): void => void (came = false);
    const changes = new MutationObserver(() => {
      if (isNowhere()) lookAfter();
    });
    document.addEventListener("focusin", entered);
    window.addEventListener("keydown", used, true);
    window.addEventListener("pointerdown", used, true);
    changes.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener("focusin", entered);
      window.removeEventListener("keydown", used, true);
      window.removeEventListener("pointerdown", used, true);
      changes.disconnect();
      trail.length = 0;
      came = false;
    };
  }, []);
  useEffect(() => {
    // The first view of all leaves the focus at the top of the page.
    if (trail.length > 0) cameAnew();
  }, [path]);
}
