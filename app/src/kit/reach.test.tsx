import { QueryClient } from "@tanstack/react-query";
import { act, render, screen } from "@testing-library/react";
import { isKept, mayBeKept } from "./kept";
import { answered, unanswered, useReach, useReturn } from "./reach";

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  act(() => answered(null));
  jest.useRealTimers();
});

const client = new QueryClient();
const invalidate = jest.spyOn(client, "invalidateQueries");

function Shown({ ask }: { ask: () => Promise<boolean> }) {
  const reach = useReach();
  useReturn(client, ask);
  return <p data-testid="reach">{reach.reached ? "reached" : (reach.from?.toISOString() ?? "no hour")}</p>;
}
const said = (): string | null => screen.getByTestId("reach").textContent;

test("out of reach it says from when what is shown is, the oldest of it; when it answers, all is asked for anew, once", async () => {
  let there = false;
  const ask = jest.fn(() => Promise.resolve(there));
  render(<Shown ask={ask} />);
  expect(said()).toBe("reached");
  act(() => unanswered());
  expect(said()).toBe("no hour");
  act(() => answered("Mon, 30 Nov 2026 14:32:00 GMT"));
  expect(said()).toBe("2026-11-30T14:32:00.000Z");
  act(() => answered("Mon, 30 Nov 2026 15:00:00 GMT"));
  act(() => unanswered());
  act(() => answered("no date"));
  expect(said()).toBe("2026-11-30T14:32:00.000Z");
  act(() => answered("Mon, 30 Nov 2026 09:00:00 GMT"));
  expect(said()).toBe("2026-11-30T09:00:00.000Z");
  expect(ask).not.toHaveBeenCalled();
  await act(() => jest.advanceTimersByTimeAsync(5_000));
  expect(ask).toHaveBeenCalledTimes(1);
  expect(invalidate).not.toHaveBeenCalled();
  there = true;
  await act(() => jest.advanceTimersByTimeAsync(5_000));
  expect(said()).toBe("reached");
  expect(invalidate).toHaveBeenCalledTimes(1);
  await act(() => jest.advanceTimersByTimeAsync(60_000));
  expect(ask).toHaveBeenCalledTimes(2);
});

test("another answer that comes from the server itself ends it too", () => {
  invalidate.mockClear();
  render(<Shown ask={() => Promise.resolve(false)} />);
  act(() => unanswered());
  act(() => answered(null));
  expect(said()).toBe("reached");
  expect(invalidate).toHaveBeenCalledTimes(1);
});

test("answers that are shown are kept; not files that leave the house, what goes on, what is sent, nor whether the server is there", () => {
  const asked = (path: string, method = "GET", accept = "*/*"): boolean =>
    mayBeKept(method, path, new Headers({ accept }));
  // A job may be called as it likes.
  const shown = ["/api/jobs", "/api/jobs/J/stages/kits", "/api/shop", "/api/jobs/file/edits", "/api/jobs/tables"];
  expect(shown.map((p) => asked(p))).toEqual(shown.map(() => true));
  expect([
    asked("/api/health"),
    asked("/api/jobs/J/events", "GET", "text/event-stream"),
    asked("/api/jobs/J/events", "POST"),
    asked("/jobs/J"),
  ]).toEqual([false, false, false, false]);
  const json = { "content-type": "application/json; charset=utf-8" };
  const kept = (status: number, headers: Record<string, string>): boolean => isKept(status, new Headers(headers));
  expect([
    kept(200, json),
    kept(200, { ...json, "content-disposition": 'attachment; filename="J.bench.json"' }),
    kept(200, { "content-type": "text/csv" }),
    kept(200, {}),
    kept(404, json),
  ]).toEqual([true, false, false, false, false]);
});
