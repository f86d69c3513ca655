import { changed, done, unfit, type Applied } from "../frame/edits";
import { lookUp } from "../design/lookup";
import type { Design, Strip } from "../design/model";

/** What all edits of strips go by. */

export const stripOf = (design: Design, tag: string): Strip | undefined => lookUp(design).strips.get(tag);

/** The design with one strip changed; of two of one tag the one that counts. */
export const withStrip = (design: Design, strip: Strip, change: (s: Strip) => Strip): Applied =>
  done({ ...design, strips: changed(design.strips, (s) => s === strip, change) });

export const notOn = (member: string, strip: string): Applied =>
  unfit(`${member} does not stand on strip ${strip}`, "Choose a member of the strip.");
