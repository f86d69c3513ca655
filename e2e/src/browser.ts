import { Builder, By, until, type WebDriver, type WebElement } from "selenium-webdriver";
import chrome from "selenium-webdriver/chrome.js";

export interface Size {
  width: number;
  height: number;
  phone: boolean;
}

export const PHONE: Size = { width: 390, height: 844, phone: true };
export const WIDE: Size = { width: 1280, height: 800, phone: false };

const FLAGS = [
  "--headless=new",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--hide-scrollbars",
];

interface Started {
  /** Folder that files are saved in. */
  downloads?: string;
  /** Flags beside the usual ones. */
  more?: readonly string[];
  /** What the application keeps on the device stands between it and the server; else a cut line is cut for all of it. */
  keeps?: boolean;
  /** Size of text a person has chosen, per cent of the usual one. */
  textPercent?: number;
}

/** Starts Debian's Chromium. */
export async function startBrowser(
  size: Size,
  { downloads, more = [], keeps = false, textPercent = 100 }: Started = {},
): Promise<WebDriver> {
  const options = new chrome.Options();
  options.setChromeBinaryPath("/usr/bin/chromium");
  options.addArguments(...FLAGS, ...more, `--window-size=${size.width},${size.height}`);
  options.setUserPreferences({
    ...(downloads ? { "download.default_directory": downloads, "download.prompt_for_download": false } : {}),
    ...(textPercent === 100 ? {} : { "webkit.webprefs.default_font_size": (16 * textPercent) / 100 }),
  });
  const driver = await new Builder()
    .forBrowser("chrome")
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder("/usr/bin/chromedriver"))
    .build();
  await resize(driver, size);
  if (!keeps) {
    const tools = driver as unknown as Devtools;
    await tools.sendDevToolsCommand("Network.enable", {});
    await tools.sendDevToolsCommand("Network.setBypassServiceWorker", { bypass: true });
  }
  return driver;
}

interface Devtools {
  sendDevToolsCommand(command: string, params: object): Promise<void>;
}

export async function resize(driver: WebDriver, { width, height, phone }: Size): Promise<void> {
  const tools = driver as unknown as Devtools;
  await tools.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
    width,
    height,
    deviceScaleFactor: 1,
    mobile: phone,
  });
  await tools.sendDevToolsCommand("Emulation.setTouchEmulationEnabled", { enabled: phone });
}

export const WAIT_MS = 30_000;

export const byId = (id: string): By => By.css(`[data-testid="${id}"]`);

/** The element once it is there and in sight. */
export async function find(driver: WebDriver, id: string): Promise<WebElement> {
  const element = await driver.wait(until.elementLocated(byId(id)), WAIT_MS, `no element ${id}`);
  await driver.wait(until.elementIsVisible(element), WAIT_MS, `${id} is not in sight`);
  return element;
}

/** Clicks once nothing lies over the element. */
export async function click(driver: WebDriver, id: string): Promise<void> {
  await driver.wait(
    async () => {
      try {
        await (await find(driver, id)).click();
        return true;
      } catch (error) {
        if (/intercepted|stale|not interactable/.test(String(error))) return false;
        throw error;
      }
    },
    WAIT_MS,
    `${id} could not be clicked`,
  );
}

export async function gone(driver: WebDriver, id: string): Promise<void> {
  await driver.wait(async () => (await driver.findElements(byId(id))).length === 0, WAIT_MS, `${id} is still there`);
}

/** Waits until the text of an element contains something. */
export async function says(driver: WebDriver, id: string, text: string | RegExp): Promise<string> {
  let last = "";
  await driver.wait(
    async () => {
      try {
        last = await (await find(driver, id)).getText();
      } catch {
        return false;
      }
      return typeof text === "string" ? last.includes(text) : text.test(last);
    },
    WAIT_MS,
    `${id} does not say ${String(text)}`,
  );
  return last;
}
