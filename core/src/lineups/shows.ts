import { byName, type Shows } from "../frame/shows";

export const shows: Shows = { stage: "lineups", things: byName("strip"), home: ["strip"] };
