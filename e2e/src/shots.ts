import { mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { AttachmentList } from "@gray-bench/contract/attachments";
import type { Arrival } from "@gray-bench/contract/intake";
import type { ImportReply } from "@gray-bench/contract/jobs";
import type { KeptMatching } from "@gray-bench/core/tables/kept";
import { find, gone, PHONE, resize, startBrowser, WIDE } from "./browser";

/** One picture per main view: name, path, element to wait for. */
const VIEWS: {
  name: string;
  path: string;
  wait: string;
  phoneOnly?: true;
  wideOnly?: true;
  /** Of the files of Saltmere: as they arrive, or of the schematic once they are a job. */
  arrives?: true | "schematic";
}[] = [
  { name: "jobs", path: "/", wait: "job-LARK-2601", phoneOnly: true },
  { name: "desk", path: "/jobs/LARK-2601", wait: "figures", phoneOnly: true },
  { name: "panel", path: "/jobs/LARK-2601/panel", wait: "scale-bar", phoneOnly: true },
  { name: "panel", path: "/jobs/LARK-2601/panel?show=depth&device=-G1", wait: "depth-canvas", wideOnly: true },
  { name: "tables", path: "?table=6", wait: "first-rows", wideOnly: true, arrives: true },
  { name: "layout", path: "?drawing=1&view=1", wait: "view-2", phoneOnly: true, arrives: true },
  {
    name: "schematic",
    path: "?page=5&kind=device&of=-K2",
    wait: "chosen-thing",
    phoneOnly: true,
    arrives: "schematic",
  },
  { name: "wire", path: "/jobs/LARK-2601/routes?wire=214", wait: "working" },
  { name: "open-points", path: "/jobs/LARK-2601/open-points", wait: "group-no way", phoneOnly: true },
  { name: "lineups", path: "/jobs/LARK-2601/lineups?strip=-X5", wait: "strip-line" },
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
  { name: "wireprep", path: "/jobs/LARK-2601/wireprep?batch=B1&show=card", wait: "lead-card", phoneOnly: true },
  {
    name: "wireprep",
    path: "/jobs/LARK-2601/wireprep?show=leads&lead=46&working=from",
    wait: "working",
    wideOnly: true,
  },
  { name: "shop", path: "/shop?rule=ends", wait: "row-ends-0", wideOnly: true },
];

const [address = "http://127.0.0.1:4600", out = "docs/screenshots", only] = process.argv.slice(2);
mkdirSync(out, { recursive: true });

const TABLES = "designs/saltmere";

/** Puts the files of Saltmere in, as if somebody had opened them and said what the drawing shows. */
async function arrive(): Promise<string> {
  const headers = { "content-type": "application/json" };
  const begun = await fetch(`${address}/api/arrivals`, { method: "POST", headers, body: '{"of":null}' });
  const { id } = (await begun.json()) as { id: string };
  for (const name of readdirSync(TABLES).filter((n) => /csv|xlsx|dxf|pdf$/.test(n)))
    await fetch(`${address}/api/arrivals/${id}/files?name=${encodeURIComponent(name)}`, {
      method: "POST",
      headers: { "content-type": "application/octet-stream" },
      body: readFileSync(join(TABLES, name)),
    });
  const { version, tables, drawings, attachments } = (await (
    await fetch(`${address}/api/arrivals/${id}`)
  ).json()) as Arrival;
  const job = JSON.parse(readFileSync(join(TABLES, "job.json"), "utf8")) as Arrival["job"];
  const kept = JSON.parse(readFileSync(join(TABLES, "Saltmere.matching.json"), "utf8")) as KeptMatching;
  const body = {
    version,
    job,
    tables: tables.map(({ file, name, asked, matching, by }) => ({ file, name, asked, matching, by })),
    drawings: drawings.map(({ file, name, by, said }, i) => ({
      file,
      name,
      by,
      said: { ...kept.drawings![i]!.said, layers: said.layers },
    })),
    attachments: attachments.map(({ file, name }) => ({ file, name })),
  };
  await fetch(`${address}/api/arrivals/${id}`, { method: "PUT", headers, body: JSON.stringify(body) });
  return `/arrivals/${id}`;
}

/** Makes a job of what has arrived. */
async function take(arrived: string): Promise<string> {
  const { version } = (await (await fetch(`${address}/api${arrived}`)).json()) as Arrival;
  const reply = await fetch(`${address}/api${arrived}/take?version=${version}`, { method: "POST" });
  const { job } = (await reply.json()) as ImportReply;
  const { attachments } = (await (await fetch(`${address}/api/jobs/${job.code}/attachments`)).json()) as AttachmentList;
  return `/jobs/${job.code}/attachments/${attachments[0]!.id}`;
}

async function leave(arrived: string): Promise<void> {
  if (arrived.startsWith("/jobs")) {
    await fetch(`${address}/api${arrived.replace(/\/attachments.*/, "")}`, { method: "DELETE" });
    return;
  }
  const { version } = (await (await fetch(`${address}/api${arrived}`)).json()) as { version: number };
  await fetch(`${address}/api${arrived}?version=${version}`, { method: "DELETE" });
}

for (const size of [PHONE, WIDE]) {
  const driver = await startBrowser(size);
  try {
    for (const v of VIEWS) {
      if (only && !only.split(",").includes(v.name)) continue;
      if (size.phone ? v.wideOnly : v.phoneOnly) continue;
      let arrived = v.arrives ? await arrive() : "";
      if (v.arrives === "schematic") arrived = await take(arrived);
      await driver.get(address + arrived + v.path);
      await resize(driver, size);
      await find(driver, v.wait);
      await gone(driver, "loading");
      await gone(driver, "page-drawing");
      await driver.executeAsyncScript(
        "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(done)));",
      );
      writeFileSync(
        join(out, `${v.name}-${size.phone ? "phone" : "wide"}.png`),
        await driver.takeScreenshot(),
        "base64",
      );
      if (arrived !== "") await leave(arrived);
    }
  } finally {
    await driver.quit();
  }
}
