import type { KnownAct } from "../faces";

/** Another name, everywhere at once. */
export const renameAct = (
  thing: "device" | "wire" | "net" | "duct" | "rail" | "crossing" | "cable" | "strip",
  from: string,
): KnownAct => ({
  id: `rename-${thing}`,
  label: thing === "net" ? "Rename net" : "Rename",
  title: "Rename",
  about: `The ${thing} gets another name wherever it is named: in wires, cables, strips, crossings.`,
  kind: "rename",
  payloads: [{ thing, from }],
  asks: [{ field: "to", label: "New name", as: "text", now: from }],
});
