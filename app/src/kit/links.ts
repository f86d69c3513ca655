import type { OpenPoint, Thing } from "@gray-bench/core/design/open-points";
import { pointAt, seenAt } from "@gray-bench/core/shows";
import type { Href } from "expo-router";

const query = (values: Readonly<Record<string, string>>): string => new URLSearchParams(values).toString();

/** The view of a job, with what is chosen in it. */
export const jobHref = (job: string, view = "", values: Readonly<Record<string, string>> = {}): Href => {
  const q = query(values);
  return `/jobs/${encodeURIComponent(job)}${view ? `/${view}` : ""}${q ? `?${q}` : ""}` as Href;
};

/** The shop, a section of it, or a rule there by its place. */
export function shopHref(section?: string, rule?: string): Href {
  const q = query({ ...(section === undefined ? {} : { section }), ...(rule === undefined ? {} : { rule }) });
  return `/shop${q ? `?${q}` : ""}` as Href;
}

/** Where a thing is seen. */
export function thingHref(job: string, thing: Thing, of: string): Href {
  if (thing === "job") return jobHref(of);
  if (thing === "edit") return jobHref(job, "history", { edit: of });
  const seen = seenAt(thing, of);
  return jobHref(job, seen?.view, seen?.query);
}

/** Where a pin is seen: at its device. */
export function pinHref(job: string, device: string, pin: string): Href {
  const seen = seenAt("device", device);
  return jobHref(job, seen?.view, { ...seen?.query, pin });
}

/** Where an open point is seen. */
export function pointHref(job: string, point: Pick<OpenPoint, "stage" | "thing" | "of">): Href {
  const seen = pointAt(point);
  return seen ? jobHref(job, seen.view, seen.query) : thingHref(job, point.thing, point.of);
}
