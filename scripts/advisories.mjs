import { spawnSync } from "node:child_process";
import { at, ensureInstalled } from "./lib.mjs";

// npm run advisories: what is known of weaknesses in the packages of the lock file. Ends with 1 when one of them ships and is
// serious, 2 when the registry answers no such questions.
await ensureInstalled();

/** @returns null where the registry does not answer */
function ask(more) {
  const { stdout } = spawnSync("npm", ["audit", "--json", ...more], { cwd: at("."), encoding: "utf8" });
  try {
    const said = JSON.parse(stdout);
    return said.vulnerabilities ? Object.values(said.vulnerabilities) : null;
  } catch {
    return null;
  }
}

const ships = ask(["--omit=dev"]);
const all = ask([]);
if (!ships || !all) {
  console.log(
    "The registry answers no questions about advisories. Set one that does (npm config set registry …), and ask again.",
  );
  process.exit(2);
}
const shipping = new Set(ships.map(({ name }) => name));
const text = ({ name, severity, via, fixAvailable }) => {
  const why = via.map((v) => (typeof v === "string" ? `by ${v}` : `${v.title} (${v.range})`)).join("; ");
  const mend = fixAvailable ? "; a newer version mends it" : "";
  return `${severity}: ${name}, ${shipping.has(name) ? "ships" : "for development alone"}: ${why}${mend}`;
};
const ORDER = ["critical", "high", "moderate", "low", "info"];
for (const one of [...all].sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity)))
  console.log(text(one));
const serious = ships.filter(({ severity }) => severity === "critical" || severity === "high");
console.log(
  `${all.length} packages with advisories, ${shipping.size} of them ship, ${serious.length} of those high or critical`,
);
process.exit(serious.length > 0 ? 1 : 0);
