import { toCsv } from "../formats/csv";
import type { FileOut } from "../frame/file-out";
import type { NotRead } from "./assemble";

const HEAD = ["table", "line", "column", "found", "wanted", "left out"];

const leftOut = ({ line, row }: NotRead): string => (line === null ? "what is drawn" : row ? "the row" : "the cell");

/** What tables said that was not read, for whoever made them. */
export const notReadFile = (notRead: readonly NotRead[]): FileOut => ({
  name: "not-read.csv",
  type: "text/csv",
  bytes: toCsv(
    HEAD,
    notRead.map((n) => [n.table, n.line, n.heading, n.found, n.wanted, leftOut(n)]),
  ),
});
