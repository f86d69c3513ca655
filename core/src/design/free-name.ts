/**
 * The next free name after one: `-K4` → `-K5`, `W` → `W2`; figures keep their noughts in front.
 * @param between stands before the figure of a name that has none yet: `-X1.PE` → `-X1.PE.2`
 */
export function freeName(wanted: string, taken: ReadonlySet<string>, between = ""): string {
  const [, stem, digits] = /^(.*?)(\d*)$/.exec(wanted)!;
  const first = digits === "" ? 2 : Number(digits) + 1;
  for (let n = first; ; n++) {
    const name = `${stem}${digits === "" ? between : ""}${String(n).padStart(digits!.length, "0")}`;
    if (!taken.has(name)) return name;
  }
}
