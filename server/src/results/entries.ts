import type { Entry } from "@gray-bench/core/search/entries";
import { gunzipSync } from "node:zlib";
import type { ResultRow } from "../store/results";

/** What can be searched for in a design, of its kept form; none where there is none. */
export const readEntries = (row: ResultRow | null): Entry[] =>
  row ? (JSON.parse(gunzipSync(row.gzip).toString("utf8")) as Entry[]) : [];
