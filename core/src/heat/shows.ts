import type { Shows } from "../frame/shows";

export const shows: Shows = { stage: "heat", things: { enclosure: (of) => ({ zone: of }) }, home: [] };
