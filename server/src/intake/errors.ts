import { BenchError } from "../errors";

export const noSuchArrival = (id: string): BenchError =>
  new BenchError(404, {
    code: "arrival.unknown",
    message: `There is nothing that arrived as ${id}: it became a job, or was deleted.`,
    where: id,
    remedy: "Open the list of jobs, or open the files again.",
  });

export const noSuchTable = (arrival: string, table: number): BenchError =>
  new BenchError(404, {
    code: "table.unknown",
    message: `There is no table ${table} in ${arrival}.`,
    where: String(table),
    remedy: "Open the arrival again.",
  });

export const noSuchArrivedDrawing = (arrival: string, drawing: number): BenchError =>
  new BenchError(404, {
    code: "arrival.drawing.unknown",
    message: `There is no drawing ${drawing} in ${arrival}.`,
    where: String(drawing),
    remedy: "Open the arrival again.",
  });

export const noDrawing = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "drawing.refused",
    message: `${name} cannot be read as a drawing: ${found}.`,
    where: name,
    remedy,
  });

export const arrivalChanged = (id: string): BenchError =>
  new BenchError(409, {
    code: "arrival.changed",
    message: "It was changed by somebody else, or in another window. Nothing was changed by this.",
    where: id,
    remedy: "Look at what stands there now, and change it again if that is still wanted.",
  });

export const arrivalFull = (where: string, message: string, remedy: string): BenchError =>
  new BenchError(409, { code: "arrival.full", message: `${message} Nothing was added.`, where, remedy });

/** A file that is no table. */
export const noTable = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "table.refused",
    message: `${name} cannot be read as a table: ${found}.`,
    where: name,
    remedy,
  });

export const notMatched = (id: string, message: string, remedy: string): BenchError =>
  new BenchError(409, { code: "arrival.incomplete", message, where: id, remedy });

/** @param of a job, or an arrival */
export const noSuchSource = (of: string, file: string): BenchError =>
  new BenchError(404, {
    code: "file.unknown",
    message: `There is no such file of ${of}.`,
    where: file,
    remedy: "Open the list of its files again.",
  });

export const noSuchMatching = (name: string): BenchError =>
  new BenchError(404, {
    code: "matching.unknown",
    message: `There is no matching ${name}.`,
    where: name,
    remedy: "Open the list of matchings again.",
  });

export const tooManyMatchings = (most: number): BenchError =>
  new BenchError(409, {
    code: "matching.full",
    message: `There are ${most} matchings already. Nothing was kept.`,
    where: "matchings",
    remedy: "Delete one that is not needed any more.",
  });
