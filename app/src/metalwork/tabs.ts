import { jobHref } from "../kit/links";
import type { Tab } from "../kit/Tabs";

/** What is shown of a face. */
export const ASPECTS = [
  ["drawing", "Drawing"],
  ["holes", "Holes"],
  ["order", "Order"],
  ["machine", "Machine"],
  ["sheet", "Sheet"],
] as const;
export type Aspect = (typeof ASPECTS)[number][0];

/** What belongs to no face. */
export const PAGES = [
  ["bars", "Bars"],
  ["saw", "Saw"],
  ["entries", "Cables in"],
] as const;

/** Aspects of a face, that of the hole that is chosen with it; where the drawing stands beside them it is none of them. */
export const aspectTabs = (job: string, face: string | undefined, hole: string | undefined, isWide: boolean): Tab[] =>
  ASPECTS.filter(([id]) => !isWide || id !== "drawing").map(([id, title]) => ({
    id,
    title,
    href: jobHref(job, "metalwork", {
      ...(face === undefined ? {} : { face }),
      show: id,
      ...(hole === undefined ? {} : { hole }),
    }),
  }));

export const pageTabs = (job: string): Tab[] =>
  PAGES.map(([id, title]) => ({ id, title, href: jobHref(job, "metalwork", { page: id }) }));
