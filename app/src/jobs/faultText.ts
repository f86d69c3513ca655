import type { ErrorBody } from "@gray-bench/contract/errors";

/** What is wrong with a refused file, as text for the one who made it. */
export function faultText(
  name: string,
  { message, remedy, faults = [], faultCount = faults.length }: ErrorBody,
): string {
  const lines = [name, message, remedy, ""];
  faults.forEach((f, i) => lines.push(`${i + 1}. ${f.path}`, `   found ${f.found}`, `   expected ${f.expected}`));
  if (faultCount > faults.length) lines.push("", `and ${faultCount - faults.length} more`);
  return `${lines.join("\n")}\n`;
}
