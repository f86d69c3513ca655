import type { Shows } from "../frame/shows";

export const shows: Shows = { stage: "wireprep", things: { wire: (of) => ({ show: "leads", lead: of }) }, home: [] };
