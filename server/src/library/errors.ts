import { MOST_FAULTS, type Fault } from "@gray-bench/core/design/faults";
import { BenchError } from "../errors";

export const noLibrary = (): BenchError =>
  new BenchError(404, {
    code: "library.none",
    message: "There is no library yet.",
    where: "library",
    remedy: "Import one: a file that ends in .library.json.",
  });

export const noSuchLibrary = (version: string): BenchError =>
  new BenchError(404, {
    code: "library.unknown",
    message: `There is no version ${version} of the library.`,
    where: version,
    remedy: "Open the list of its versions again.",
  });

export const libraryRefused = (faults: readonly Fault[], count: number): BenchError =>
  new BenchError(422, {
    code: "library.refused",
    message: `The library was refused: ${count === 1 ? "1 fault" : `${count} faults`}. Nothing was changed.`,
    where: faults[0]!.path,
    remedy: "Correct the places named in the file, then import it again.",
    faults: faults.slice(0, MOST_FAULTS),
    faultCount: count,
  });

export const outlineRefused = (found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "outline.refused",
    message: `The drawing cannot be read: ${found}. Nothing was changed.`,
    where: "the drawing",
    remedy,
  });

export const libraryStale = (changed: string[]): BenchError =>
  new BenchError(409, {
    code: "library.stale",
    message: "The library was changed meanwhile. Nothing was changed by this.",
    where: "library",
    remedy: "Take the newest version, change it, and import that.",
    changed,
  });
