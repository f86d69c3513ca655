import { byName, type Shows } from "../frame/shows";

export const shows: Shows = { stage: "metalwork", things: byName("face", "device", "rail", "duct", "cable"), home: [] };
