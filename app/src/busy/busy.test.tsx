import type { JobDetail } from "@gray-bench/contract/jobs";
import { act, fireEvent, screen } from "@testing-library/react";
import { router, type Href } from "expo-router";
import { page } from "../test/page";
import { useComputing } from "./computing";
import { useReading } from "./reading";
import { allWork, end, forget, tell } from "./work";
import { WorkBar } from "./WorkBar";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

afterEach(() => {
  jest.useRealTimers();
  act(() => allWork().forEach((w) => forget(w.id)));
});

const job = (run: string): JobDetail => ({ code: "J-1", run }) as JobDetail;
const serve = (run: string): void => {
  global.fetch = jest.fn(() =>
    Promise.resolve({
      ok: true,
      status: 200,
      headers: new Headers(),
      text: () => Promise.resolve(JSON.stringify({ code: "J-1", run })),
    }),
  ) as unknown as typeof fetch;
};

test("what is told again by its id is the same work, after its end another; what ended first is forgotten first", () => {
  const cancel = jest.fn();
  tell("a", { what: "computing A", share: 0.2, cancel });
  tell("a", { what: "computing A, Routes", share: 0.4 });
  expect(allWork()).toEqual([
    { id: "a", what: "computing A, Routes", state: "running", share: 0.4, href: null, told: "", cancel },
  ]);
  end("a", "failed", "no room");
  expect(allWork()[0]).toMatchObject({ state: "failed", told: "no room", share: null, cancel: null });
  tell("a", { what: "computing A" });
  expect(allWork()).toEqual([
    { id: "a", what: "computing A", state: "running", share: null, href: null, told: "", cancel: null },
  ]);
  for (let i = 0; i < 10; i++) {
    tell(`e${i}`, { what: "" });
    end(`e${i}`, "done");
  }
  expect(allWork().map((w) => w.id)).toEqual(["a", ...[2, 3, 4, 5, 6, 7, 8, 9].map((i) => `e${i}`)]);
});

test("one button tells what is under way; its sheet cancels it, and leads to what came of it", () => {
  serve("running");
  const cancel = jest.fn();
  page(<WorkBar job="J-1" />);
  expect(screen.queryByTestId("work")).toBe(null);
  act(() => tell("x", { what: "reading big.dxf", share: 0.5, cancel, href: "/arrivals/7" }));
  expect(screen.getByTestId("work").getAttribute("aria-label")).toBe("Work: reading big.dxf 50 %");
  fireEvent.click(screen.getByTestId("work"));
  fireEvent.click(screen.getByTestId("work-cancel-x"));
  expect(cancel).toHaveBeenCalledTimes(1);
  expect(screen.queryByTestId("work-see-x")).toBe(null);
  act(() => end("x", "done", "It is read."));
  expect(screen.getByTestId("work-x").textContent).toMatch(/done\. It is read\./);
  fireEvent.click(screen.getByTestId("work-see-x"));
  expect(router.push).toHaveBeenCalledWith("/arrivals/7");
  expect(allWork()).toEqual([]);
});

function Computes({ run }: { run: string }) {
  useComputing(job(run), { run: "running", share: 0.3, stage: "routes" } as Parameters<typeof useComputing>[1]);
  return null;
}

test("a computation is told once it takes its time, and not any more when it ends while it is looked at", () => {
  jest.useFakeTimers();
  const { rerender, unmount } = page(<Computes run="running" />);
  act(() => void jest.advanceTimersByTime(999));
  expect(allWork()).toEqual([]);
  act(() => void jest.advanceTimersByTime(1));
  expect(allWork()).toMatchObject([{ id: "computing J-1", what: "computing J-1, Routes", share: 0.3 }]);
  rerender(<Computes run="done" />);
  expect(allWork()).toEqual([]);
  unmount();
  expect(allWork()).toEqual([]);
});

test("who goes elsewhere is told how it ended", async () => {
  serve("done");
  const { unmount } = page(<Computes run="running" />);
  unmount();
  expect(allWork()).toMatchObject([{ state: "running" }]);
  page(<WorkBar job={undefined} />);
  fireEvent.click(await screen.findByTestId("work"));
  await screen.findByText(/done\. It is computed\./);
  expect(allWork()).toMatchObject([{ id: "computing J-1", state: "done" }]);
});

test("files that are read are told of by the view they were opened in, and elsewhere by the frame", async () => {
  const told: { resolve(href: Href): void; reject(error: Error): void }[] = [];
  function Opens({ name }: { name: string }) {
    const reading = useReading();
    const open = (): void =>
      reading.follow(name, new AbortController(), new Promise((resolve, reject) => told.push({ resolve, reject })));
    return <button onClick={open}>open {name}</button>;
  }
  const first = page(<Opens name="a.csv" />);
  fireEvent.click(screen.getByText("open a.csv"));
  await act(async () => told[0]!.resolve("/arrivals/1"));
  expect(allWork()).toEqual([]);
  fireEvent.click(screen.getByText("open a.csv"));
  first.unmount();
  expect(allWork()).toMatchObject([{ what: "reading a.csv", state: "running" }]);
  await act(async () => told[1]!.resolve("/arrivals/2"));
  expect(allWork()).toMatchObject([{ state: "done", href: "/arrivals/2" }]);
  const second = page(<Opens name="b.csv" />);
  fireEvent.click(screen.getByText("open b.csv"));
  second.unmount();
  await act(async () => told[2]!.reject(new Error("line 3 has no end")));
  expect(allWork()).toMatchObject([{ what: "reading b.csv", state: "failed", told: "line 3 has no end" }]);
});
