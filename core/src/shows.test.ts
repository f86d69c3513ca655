import { THINGS } from "./design/open-points";
import { pointAt, seenAt, SHOWS } from "./shows";

test("each thing is looked for in one view, which shows it; an open point where its stage shows it", () => {
  const homes = SHOWS.flatMap((s) => s.home);
  expect([...homes].sort()).toEqual(THINGS.filter((t) => t !== "job" && t !== "edit").sort());
  for (const { home, things } of SHOWS) expect(Object.keys(things)).toEqual(expect.arrayContaining([...home]));
  expect(seenAt("wire", "214")).toEqual({ view: "routes", query: { wire: "214" } });
  expect(seenAt("job", "LARK-2601")).toBe(null);
  expect(pointAt({ stage: "heat", thing: "enclosure", of: "+A1" })).toEqual({ view: "heat", query: { zone: "+A1" } });
  expect(pointAt({ stage: "heat", thing: "device", of: "-K1" })).toEqual({ view: "panel", query: { device: "-K1" } });
  expect(pointAt({ stage: "wireprep", thing: "wire", of: "7" })?.query).toEqual({ show: "leads", lead: "7" });
});
