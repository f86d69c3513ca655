import type { OpenPoint, Thing } from "@gray-bench/core/design/open-points";
import type { Href } from "expo-router";

const query = (values: Record<string, string>): string => new URLSearchParams(values).toString();

/** The view of a job, with what is chosen in it. */
export const jobHref = (job: string, view = "", values: Record<string, string> = {}): Href => {
  const q = query(values);
  return `/jobs/${encodeURIComponent(job)}${view ? `/${view}` : ""}${q ? `?${q}` : ""}` as Href;
};

/** Where a thing is seen. */
export function thingHref(job: string, thing: Thing, of: string): Href {
  switch (thing) {
    case "job":
      return jobHref(of);
    case "wire":
      return jobHref(job, "routes", { wire: of });
    case "piece":
      return jobHref(job, "routes", { piece: of });
    case "duct":
      return jobHref(job, "routes", { duct: of });
    case "crossing":
      return jobHref(job, "routes", { crossing: of });
    case "net":
      return jobHref(job, "routes", { net: of });
    case "device":
      return jobHref(job, "panel", { device: of });
    case "face":
      return jobHref(job, "panel", { face: of });
    case "enclosure":
      return jobHref(job, "panel", { enclosure: of });
    case "rail":
      return jobHref(job, "panel", { rail: of });
    case "part":
      return jobHref(job, "panel", { part: of });
    case "strip":
      return jobHref(job, "lineups", { strip: of });
    case "edit":
      return jobHref(job, "history", { edit: of });
    case "cable":
    case "option":
    case "attachment":
      return jobHref(job, "intake", { [thing]: of });
  }
}

/** What metalwork shows its own places of. */
const OF_METALWORK: ReadonlySet<Thing> = new Set(["face", "device", "rail", "duct", "cable"]);

/** Where an open point is seen: at its thing, as the stage that found it shows it. */
export function pointHref(job: string, { stage, thing, of }: Pick<OpenPoint, "stage" | "thing" | "of">): Href {
  if (stage === "heat" && thing === "enclosure") return jobHref(job, "heat", { zone: of });
  if (stage === "kits" && thing === "job") return jobHref(job, "kits", { show: "bill", group: "place" });
  if (stage === "wireprep" && thing === "wire") return jobHref(job, "wireprep", { show: "leads", lead: of });
  if (stage === "metalwork" && OF_METALWORK.has(thing)) return jobHref(job, "metalwork", { [thing]: of });
  return thingHref(job, thing, of);
}
