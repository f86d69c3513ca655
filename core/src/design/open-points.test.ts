import { choiceOf, countPoints, listed, MOST_OF_A_KIND, OpenPoints, turnedPoints, type NewPoint } from "./open-points";

const point = (of: string, more: Partial<NewPoint> = {}): NewPoint => ({
  severity: "check",
  kind: "no colour",
  thing: "wire",
  of,
  text: `wire ${of} has no colour`,
  remedy: "Give it one.",
  ...more,
});

describe("lists of open points", () => {
  test("names beyond what a person reads are counted", () => {
    const names = Array.from({ length: 200 }, (_, i) => `-K${i}`);
    expect(listed(names.slice(0, 2))).toBe("-K0, -K1");
    expect(listed(names.slice(0, 12))).toBe(names.slice(0, 12).join(", "));
    expect(listed(names)).toMatch(/^-K0, .*-K11 and 188 more$/);
  });

  test("points that went and came are told apart, by what they say; what is accepted is none of either", () => {
    const made = (...points: NewPoint[]) => {
      const list = new OpenPoints("intake");
      for (const p of points) list.add(p);
      return list.list();
    };
    const [one, two, three] = made(point("1"), point("2"), point("3"));
    const accepted = { ...two!, accepted: { who: "M", why: "so it is" } };
    expect(turnedPoints([one!, two!], [two!, three!])).toEqual({ solved: 1, raised: 1 });
    expect(turnedPoints([one!, two!], [accepted])).toEqual({ solved: 2, raised: 0 });
    expect(turnedPoints([accepted], [one!, two!])).toEqual({ solved: 0, raised: 2 });
    expect(turnedPoints([one!], [{ ...one!, text: "wire 1 has another colour" }])).toEqual({ solved: 1, raised: 1 });
    expect(turnedPoints([one!, two!, three!], [one!, two!, three!])).toEqual({ solved: 0, raised: 0 });
  });

  test("what cannot be chosen from is typed", () => {
    const names = Array.from({ length: 201 }, (_, i) => `R${i}`);
    expect(choiceOf("rail", "Rail", names.slice(0, 200))).toMatchObject({ as: "choice", choices: names.slice(0, 200) });
    expect(choiceOf("rail", "Rail", names)).toEqual({ field: "rail", label: "Rail", as: "text" });
  });

  test("of a kind with too many the first by name are listed, one stands for the others, all are counted", () => {
    const points = new OpenPoints("intake");
    const names = Array.from({ length: MOST_OF_A_KIND + 7 }, (_, i) => String(i).padStart(5, "0"));
    for (const name of [...names].reverse()) points.add(point(name));
    points.add(point("n", { kind: "no class", thing: "net", severity: "stop" }));
    const list = points.list();
    expect(list).toHaveLength(MOST_OF_A_KIND + 2);
    expect(list[0]).toMatchObject({ thing: "net" });
    expect(list[list.length - 1]).toMatchObject({
      stands: 7,
      of: "05000",
      text: "7 more of this kind, from wire 05000 on, are not listed one by one",
    });
    expect(new Set(list.map((p) => p.of))).toEqual(new Set(["n", ...names.slice(0, MOST_OF_A_KIND + 1)]));
    expect(countPoints(list)).toEqual({ stop: 1, check: MOST_OF_A_KIND + 7, note: 0 });
  });

  test("as many as may be are all listed", () => {
    const points = new OpenPoints("intake");
    for (let i = 0; i < MOST_OF_A_KIND; i++) points.add(point(String(i)));
    expect(points.list().some((p) => p.stands)).toBe(false);
    expect(points.list()).toHaveLength(MOST_OF_A_KIND);
  });
});
