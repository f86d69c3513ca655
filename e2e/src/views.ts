/** A view of the demo jobs: where it is, and what stands there last once it is whole. */
export interface LookedAt {
  name: string;
  path: string;
  wait?: string;
  /** Measured whenever the tests run; the others when all are asked for. */
  main?: true;
}

const JOB = "/jobs/LARK-2601";

/** Views by their addresses; what is in them comes from the demo jobs. */
export const VIEWS: readonly LookedAt[] = [
  { name: "jobs", path: "/", wait: "job-LARK-2601", main: true },
  { name: "desk", path: JOB, wait: "figures", main: true },
  { name: "panel", path: `${JOB}/panel`, wait: "scale-bar", main: true },
  { name: "panel-device", path: `${JOB}/panel?device=-K13`, wait: "scale-bar", main: true },
  { name: "panel-depth", path: `${JOB}/panel?show=depth&device=-G1`, wait: "depth-canvas", main: true },
  { name: "panel-clashes", path: `${JOB}/panel?show=clashes`, wait: "clashes", main: true },
  { name: "panel-room", path: `${JOB}/panel?show=room`, wait: "room" },
  { name: "panel-sheet", path: `${JOB}/panel?show=sheet&face=%2BA1/plate`, wait: "layout-picture", main: true },
  { name: "routes", path: `${JOB}/routes`, main: true },
  { name: "routes-wire", path: `${JOB}/routes?wire=214`, wait: "working", main: true },
  { name: "routes-ducts", path: `${JOB}/routes?list=ducts` },
  { name: "open-points", path: `${JOB}/open-points`, wait: "group-no way", main: true },
  { name: "lineups", path: `${JOB}/lineups?strip=-X5`, wait: "strip-line", main: true },
  { name: "lineups-strip", path: `${JOB}/lineups?strip=-X5&show=strip` },
  { name: "lineups-jumpers", path: `${JOB}/lineups?strip=-X5&show=jumpers`, wait: "strip-line" },
  { name: "lineups-cables", path: `${JOB}/lineups?strip=-X5&show=cables`, wait: "strip-line" },
  { name: "lineups-assembly", path: `${JOB}/lineups?strip=-X5&show=assembly`, wait: "strip-line" },
  { name: "heat", path: `${JOB}/heat?zone=%2BA2`, wait: "verdict", main: true },
  { name: "heat-units", path: `${JOB}/heat?zone=%2BA1&show=units&unit=1xTT-FF560`, wait: "unit-1xTT-FF560" },
  { name: "heat-air", path: `${JOB}/heat?zone=%2BA2&show=air`, wait: "verdict" },
  { name: "heat-devices", path: `${JOB}/heat?zone=%2BA2&show=devices`, wait: "verdict" },
  { name: "heat-try", path: `${JOB}/heat?zone=%2BA2&show=try`, wait: "tried-verdict" },
  { name: "metalwork", path: `${JOB}/metalwork?face=%2BA1/door`, wait: "face-drawing", main: true },
  { name: "metalwork-hole", path: `${JOB}/metalwork?face=%2BA1/door&show=holes&hole=14`, wait: "working" },
  { name: "metalwork-order", path: `${JOB}/metalwork?face=%2BA1/door&show=order`, wait: "face-drawing" },
  { name: "metalwork-machine", path: `${JOB}/metalwork?face=%2BA2/plate&show=machine`, wait: "lie" },
  { name: "metalwork-sheet", path: `${JOB}/metalwork?face=%2BA1/door&show=sheet` },
  { name: "metalwork-bars", path: `${JOB}/metalwork?page=bars` },
  { name: "metalwork-saw", path: `${JOB}/metalwork?page=saw` },
  { name: "metalwork-entries", path: `${JOB}/metalwork?page=entries` },
  { name: "kits", path: `${JOB}/kits`, main: true },
  { name: "kits-bill", path: `${JOB}/kits?show=bill`, main: true },
  { name: "kits-missing", path: `${JOB}/kits?show=missing` },
  { name: "kits-walk", path: `${JOB}/kits?show=walk` },
  {
    name: "kits-pick",
    path: `${JOB}/kits?show=pick&take=LARK-2601+%2BA1+plate%0ALARK-2601+%2BA2+plate`,
    wait: "pick-card",
    main: true,
  },
  { name: "kits-back", path: `${JOB}/kits?show=back` },
  { name: "kits-revisions", path: `${JOB}/kits?show=revisions` },
  { name: "stock", path: "/stock", wait: "stock" },
  { name: "wireprep", path: `${JOB}/wireprep`, wait: "batches", main: true },
  { name: "wireprep-leads", path: `${JOB}/wireprep?show=leads&lead=46&working=from`, wait: "working", main: true },
  { name: "wireprep-batch", path: `${JOB}/wireprep?batch=B1`, wait: "batch-head" },
  { name: "wireprep-card", path: `${JOB}/wireprep?batch=B1&show=card`, wait: "lead-card", main: true },
  { name: "intake", path: `${JOB}/intake` },
  { name: "history", path: `${JOB}/history` },
  { name: "rules", path: `${JOB}/rules` },
  { name: "attachments", path: `${JOB}/attachments` },
  { name: "shop", path: "/shop", main: true },
  { name: "shop-routes", path: "/shop?section=routes" },
  { name: "shop-rule", path: "/shop?rule=ends", wait: "row-ends-0" },
  { name: "library", path: "/library", wait: "library", main: true },
  { name: "library-part", path: "/library/OH-VD11" },
  { name: "record", path: "/record", wait: "record" },
];
