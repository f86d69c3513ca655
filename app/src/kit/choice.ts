import { router, usePathname } from "expo-router";
import { useEffect } from "react";

/**
 * What is chosen in a view stands in its address. Each choice is an entry of the history of the browser, so that Back
 * undoes the last choice before it leaves the view; the view itself stays mounted, with its scrolling and its zoom.
 */

type Params = Record<string, string | undefined>;

/** Every name that was ever chosen by: what the address does not name any more is let go. */
const names = new Set<string>();
/** Path of the view that is shown. */
let shown = "";
/** Whether the last entry was made by walking from row to row. */
let walking = false;

/**
 * Chooses in the view that is shown; undefined lets go.
 * @param walk a step from row to row: a whole walk is one entry, or Back would have to be pressed for every row
 */
export function choose(params: Params, walk = false): void {
  for (const name of Object.keys(params)) names.add(name);
  const now = new URLSearchParams(window.location.search);
  const same = Object.entries(params).every(([name, value]) => (now.get(name) ?? undefined) === value);
  if (same) return;
  // The router only ever replaces an entry: a copy of this one is made, and that is replaced.
  if (!(walk && walking)) window.history.pushState(window.history.state, "", window.location.href);
  walking = walk;
  router.setParams(params);
}

interface Pressed {
  preventDefault(): void;
}

/** For a link to another choice of the view it stands in, which stays mounted; a click that asks for another window has its way. */
export const chooses =
  (params: Params) =>
  (event: Pressed): void => {
    const { ctrlKey = false, metaKey = false, shiftKey = false } = event as Partial<MouseEvent>;
    if (ctrlKey || metaKey || shiftKey) return;
    event.preventDefault();
    choose(params);
  };

/** Back or forward within one view: its choice changes, nothing else. */
function popped(event: PopStateEvent): void {
  if (shown === "" || decodeURI(window.location.pathname) !== decodeURI(shown)) return;
  event.stopImmediatePropagation();
  walking = false;
  const now = new URLSearchParams(window.location.search);
  router.setParams(Object.fromEntries([...names].map((name) => [name, now.get(name) ?? undefined])));
}

// Before the router listens, or it would take the step itself and build the view anew.
if (typeof window !== "undefined") window.addEventListener("popstate", popped);

/** Tells which view is shown. Once, in the frame of all views. */
export function useShown(): void {
  const path = usePathname();
  useEffect(() => {
    shown = path;
    walking = false;
  }, [path]);
}
