import type { MetalworkRules } from "@gray-bench/core/design/metalwork-rules";

/** `4 min 12 s`, `38 s` */
export function minutesText(seconds: number): string {
  const s = Math.round(seconds);
  return s < 60 ? `${s} s` : `${Math.floor(s / 60)} min ${s % 60} s`;
}

/** `drill Ø 4.2`, `tap M5` */
export function toolName(id: string, { tools }: Pick<MetalworkRules, "tools">): string {
  const t = tools.find((x) => x.id === id);
  if (!t) return id;
  if (t.kind === "tap") return `tap ${t.thread ?? ""}`;
  return t.kind === "punch" && t.h !== undefined ? `punch ${t.d} × ${t.h}` : `${t.kind} Ø ${t.d}`;
}
