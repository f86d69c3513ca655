import { byName, type Shows } from "../frame/shows";

export const shows: Shows = {
  stage: "routes",
  things: byName("wire", "piece", "duct", "crossing", "net"),
  home: ["wire", "piece", "duct", "crossing", "net"],
};
