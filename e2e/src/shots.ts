import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { find, gone, PHONE, resize, startBrowser, WIDE } from "./browser";

/** One picture per main view: name, path, element to wait for. */
const VIEWS: { name: string; path: string; wait: string; phoneOnly?: true; wideOnly?: true }[] = [
  { name: "jobs", path: "/", wait: "job-LARK-2601", phoneOnly: true },
  { name: "desk", path: "/jobs/LARK-2601", wait: "figures", phoneOnly: true },
  { name: "panel", path: "/jobs/LARK-2601/panel", wait: "scale-bar" },
  { name: "routes", path: "/jobs/LARK-2601/routes", wait: "wire-list", wideOnly: true },
  { name: "wire", path: "/jobs/LARK-2601/routes?wire=214", wait: "working" },
  { name: "open-points", path: "/jobs/LARK-2601/open-points", wait: "group-no way", phoneOnly: true },
  { name: "lineups", path: "/jobs/LARK-2601/lineups?strip=-X5", wait: "strip-line" },
  { name: "heat", path: "/jobs/LARK-2601/heat?zone=%2BA2", wait: "maps", phoneOnly: true },
  {
    name: "heat",
    path: "/jobs/LARK-2601/heat?zone=%2BA1&show=units&unit=1xTT-FF560",
    wait: "unit-1xTT-FF560",
    wideOnly: true,
  },
  { name: "metalwork", path: "/jobs/LARK-2601/metalwork?face=%2BA2/plate&show=machine", wait: "lie", phoneOnly: true },
  {
    name: "metalwork",
    path: "/jobs/LARK-2601/metalwork?face=%2BA1/door&show=holes&hole=14",
    wait: "working",
    wideOnly: true,
  },
  {
    name: "kits",
    path: "/jobs/LARK-2601/kits?show=pick&take=LARK-2601+%2BA1+plate%0ALARK-2601+%2BA2+plate",
    wait: "pick-card",
    phoneOnly: true,
  },
  { name: "kits", path: "/jobs/LARK-2601/kits?show=walk&line=B-03-01", wait: "stop-2", wideOnly: true },
  { name: "wireprep", path: "/jobs/LARK-2601/wireprep?batch=B1&show=card", wait: "lead-card", phoneOnly: true },
  {
    name: "wireprep",
    path: "/jobs/LARK-2601/wireprep?show=leads&lead=46&working=from",
    wait: "working",
    wideOnly: true,
  },
  { name: "shop", path: "/shop", wait: "row-ends-0", wideOnly: true },
];

const [address = "http://127.0.0.1:4600", out = "docs/screenshots", only] = process.argv.slice(2);
mkdirSync(out, { recursive: true });
for (const size of [PHONE, WIDE]) {
  const driver = await startBrowser(size);
  try {
    for (const v of VIEWS) {
      if (only && !only.split(",").includes(v.name)) continue;
      if (size.phone ? v.wideOnly : v.phoneOnly) continue;
      await driver.get(address + v.path);
      await resize(driver, size);
      await find(driver, v.wait);
      await gone(driver, "loading");
      await driver.executeAsyncScript(
        "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(done)));",
      );
      writeFileSync(
        join(out, `${v.name}-${size.phone ? "phone" : "wide"}.png`),
        await driver.takeScreenshot(),
        "base64",
      );
    }
  } finally {
    await driver.quit();
  }
}
