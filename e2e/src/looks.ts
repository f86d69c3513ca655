import type { WebDriver } from "selenium-webdriver";
import { violations } from "./axe";
import { find, gone, startBrowser, WAIT_MS, type Size } from "./browser";
import { measure, type Bounds } from "./measure";
import type { LookedAt } from "./views";

/** A screen that views are looked at on. */
export interface Screen {
  name: string;
  size: Size;
  /** Size of text a person has chosen in the browser, per cent of the usual one. */
  textPercent: number;
  light: "day" | "night";
  bounds: Bounds;
}

/** What a finger hits, and what a pointer does: tables are denser where there is one. */
const FINGER: Bounds = { targetPx: 44, textPx: 12 };
const POINTER: Bounds = { targetPx: 24, textPx: 12 };
const screen = (
  name: string,
  [width, height, phone]: [number, number, boolean],
  more: Partial<Screen> = {},
): Screen => ({
  name,
  size: { width, height, phone },
  textPercent: 100,
  light: "day",
  bounds: phone ? FINGER : POINTER,
  ...more,
});

export const PHONE_SCREEN = screen("phone", [390, 844, true]);
export const WIDE_SCREEN = screen("wide", [1280, 800, false]);
export const LARGE_TEXT = screen("phone-200", [390, 844, true], { textPercent: 200 });
export const SCREENS: readonly Screen[] = [
  PHONE_SCREEN,
  WIDE_SCREEN,
  LARGE_TEXT,
  screen("phone-small", [360, 740, true]),
  screen("phone-lying", [844, 390, true]),
  screen("tablet", [820, 1180, true]),
  screen("large", [1920, 1080, false]),
  screen("night", [390, 844, true], { light: "night" }),
  screen("wide-200", [1280, 800, false], { textPercent: 200 }),
];

/** Opens a browser as this screen is. */
export async function openScreen(s: Screen, address: string): Promise<WebDriver> {
  const driver = await startBrowser(s.size, { textPercent: s.textPercent });
  if (s.light === "night") {
    await driver.get(address);
    await driver.executeScript("localStorage.setItem('gray-bench.settings', JSON.stringify({ light: 'night' }))");
  }
  return driver;
}

/** Opens a view and waits until nothing in it loads any more. */
export async function openView(driver: WebDriver, address: string, { path, wait }: LookedAt): Promise<void> {
  await driver.get(address + path);
  if (wait !== undefined) await find(driver, wait);
  await gone(driver, "loading");
  await gone(driver, "page-drawing");
  let before = "";
  await driver.wait(
    async () => {
      const now = await driver.executeScript<string>(
        "return document.querySelector('[data-testid=loading]') ? '' : (document.getElementById('content')?.innerText ?? '')",
      );
      const stands = now !== "" && now === before;
      before = now;
      return stands;
    },
    WAIT_MS,
    `${path} does not come to rest`,
  );
  await driver.executeAsyncScript(
    "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(done)));",
  );
}

/** What is wrong with the view that is open, as lines. */
export async function faultsOf(driver: WebDriver, { bounds }: Screen, axe = true): Promise<string[]> {
  const measured = (await measure(driver, bounds)).map((f) => `${f.kind}: ${f.what}`);
  return [...measured, ...(axe ? await violations(driver) : [])];
}
