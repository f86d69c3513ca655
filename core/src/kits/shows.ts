import type { Shows } from "../frame/shows";

export const shows: Shows = { stage: "kits", things: { job: () => ({ show: "bill", group: "place" }) }, home: [] };
