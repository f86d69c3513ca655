import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { faultsOf, openScreen, openView, SCREENS } from "./looks";
import { VIEWS } from "./views";

// Every view on every screen into a folder, and what a program sees wrong with it; ends with 1 where it sees something.
const [address = "http://127.0.0.1:4600", out = "dist/looks", only = "", screens = ""] = process.argv.slice(2);
mkdirSync(out, { recursive: true });
const chosen = VIEWS.filter((v) => only === "" || only.split(",").includes(v.name));
async function lookAll(): Promise<number> {
  let all = 0;
  for (const screen of SCREENS.filter((s) => screens === "" || screens.split(",").includes(s.name))) {
    const driver = await openScreen(screen, address);
    try {
      for (const view of chosen) {
        let faults: string[];
        try {
          await openView(driver, address, view);
          faults = await faultsOf(driver, screen);
        } catch (error) {
          faults = [`could not be looked at: ${String(error).slice(0, 200)}`];
        }
        writeFileSync(join(out, `${view.name}-${screen.name}.png`), await driver.takeScreenshot(), "base64");
        all += faults.length;
        for (const fault of faults) console.log(`${screen.name} ${view.name} · ${fault}`);
      }
    } finally {
      await driver.quit();
    }
  }
  console.log(`${all} faults in ${chosen.length} views`);
  return all;
}

void lookAll().then((faults) => (process.exitCode = faults > 0 ? 1 : 0));
