import type { JobFigure } from "@gray-bench/contract/jobs";
import { screen } from "@testing-library/react";
jest.mock("expo-router", () => jest.requireActual("../test/router"));

import { page } from "../test/page";
import { Since } from "./Since";
import { changedFigures, visited, type Seen } from "./visits";

const figure = (id: string, value: number, outOf?: number): JobFigure =>
  ({
    id,
    label: id,
    value,
    unit: "",
    short: id,
    query: {},
    stage: "routes",
    ...(outOf === undefined ? {} : { outOf }),
  }) as JobFigure;
const seen = (at: string, wires: number, revision = "A"): Seen => ({ at, revision, figures: [figure("wires", wires)] });

test("a look within half an hour belongs to the same visit, a later one begins another", () => {
  const first = visited(null, seen("2026-11-30T08:00:00.000Z", 10));
  expect(first).toEqual({ last: seen("2026-11-30T08:00:00.000Z", 10), before: null });
  const soon = visited(first, seen("2026-11-30T08:30:00.000Z", 11));
  expect(soon).toEqual({ last: seen("2026-11-30T08:30:00.000Z", 11), before: null });
  const anew = visited(soon, seen("2026-11-30T09:00:01.000Z", 12));
  expect(anew).toEqual({ last: seen("2026-11-30T09:00:01.000Z", 12), before: soon.last });
  // And stays what it was during the whole of that visit.
  expect(visited(anew, seen("2026-11-30T09:10:00.000Z", 13)).before).toEqual(soon.last);
});

test("figures that had another value, or were another share, then; not those that are new", () => {
  const before: Seen = {
    at: "",
    revision: "A",
    figures: [figure("wires", 10, 12), figure("ducts", 4), figure("gone", 1)],
  };
  expect([...changedFigures(before, [figure("wires", 10, 13), figure("ducts", 4), figure("new", 1)]).keys()]).toEqual([
    "wires",
  ]);
  expect(changedFigures(null, [figure("wires", 1)]).size).toBe(0);
});

describe("what the desk says of the time since", () => {
  const edit = (when: string, who: string) => ({ when, who, id: when, touches: [], back: null });
  const serve = (edits: object[]): void => {
    global.fetch = jest.fn(() =>
      Promise.resolve({
        ok: true,
        status: 200,
        headers: new Headers(),
        text: () => Promise.resolve(JSON.stringify({ edits })),
      }),
    ) as unknown as typeof fetch;
  };
  const job = { code: "J-1", revision: "B" } as Parameters<typeof Since>[0]["job"];

  test("edits of that time with who made them, another revision, figures that have changed", async () => {
    serve([edit("2026-11-30T07:00:00.000Z", "A. Frey"), edit("2026-11-30T12:00:00.000Z", "M. Orr")]);
    page(<Since job={job} before={seen("2026-11-30T08:00:00.000Z", 3)} figures={1} />);
    await screen.findByTestId("since-history");
    expect(screen.getByTestId("since").textContent).toMatch(
      /: revision B has come after A; 1 edit by M\. Orr; 1 figure has changed, marked below\./,
    );
  });

  test("nothing where nothing has changed, and on the first visit", async () => {
    serve([edit("2026-11-30T07:00:00.000Z", "A. Frey")]);
    page(<Since job={{ ...job, revision: "A" }} before={seen("2026-11-30T08:00:00.000Z", 3)} figures={0} />);
    page(<Since job={job} before={null} figures={0} />);
    await Promise.resolve();
    expect(screen.queryByTestId("since")).toBe(null);
  });
});
