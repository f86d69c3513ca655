import { byName, type Shows } from "../frame/shows";

export const shows: Shows = {
  stage: "intake",
  things: byName("cable", "option", "attachment"),
  home: ["cable", "option", "attachment"],
};
