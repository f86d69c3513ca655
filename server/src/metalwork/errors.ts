import { BenchError } from "../errors";

export const machineRefused = (name: string, why: string): BenchError =>
  new BenchError(409, {
    code: "machine.refused",
    message: `${name} does not take the program: ${why}`,
    where: name,
    remedy: "Compare its tools, its area and what its control reads with the shop's tables.",
  });

export const noSuchProgram = (face: string, setUp: number): BenchError =>
  new BenchError(404, {
    code: "program.unknown",
    message: `There is no program for set-up ${setUp} of ${face}.`,
    where: face,
    remedy: "Name a face with holes that has a machine in the shop.",
  });
