import { byName, type Shows } from "../frame/shows";

export const shows: Shows = {
  stage: "panel",
  things: byName("device", "face", "enclosure", "rail", "part"),
  home: ["device", "face", "enclosure", "rail", "part"],
};
