import { count, lengthOf, lengthsOf, shareOf } from "@gray-bench/core/frame/figure";
import type { JobDetail, JobSummary } from "@gray-bench/contract/jobs";
import { STAGE_NAMES } from "@gray-bench/core/stage-names";
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { router } from "expo-router";
import { TextOut } from "../kit/TextOut";
import { page, serve } from "../test/page";
import { DeskView } from "./DeskView";
import { faultText } from "./faultText";
import { JobsView } from "./JobsView";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));
jest.mock("react-dropzone", () => ({
  useDropzone: ({ onDrop }: { onDrop(files: File[]): void }) => ({
    getRootProps: () => ({}),
    getInputProps: (p: object) => ({
      ...p,
      type: "file",
      onChange: (e: { target: { files: File[] } }) => onDrop([...e.target.files]),
    }),
    isDragActive: false,
    inputRef: { current: null },
    open: () => undefined,
  }),
}));

/** The width that a page has; 0 is that of a window that has none. */
function wideWindow(width: number): void {
  Object.defineProperty(document.documentElement, "clientWidth", { configurable: true, value: width });
  act(() => void window.dispatchEvent(new Event("resize")));
}

const none = { stop: 0, check: 0, note: 0 };
const summary = (more: Partial<JobSummary> = {}): JobSummary => ({
  code: "HILL-1",
  title: "dome rotator",
  customer: null,
  due: "2020-01-15",
  revision: "A",
  importedAt: "2026-11-23T00:00:00Z",
  designHash: "h",
  run: "done",
  stages: STAGE_NAMES.map((stage) => ({ stage, state: "ready", open: none })),
  open: { stop: 1, check: 0, note: 2 },
  figures: [
    {
      stage: "routes",
      id: "wires",
      label: "wires with a length",
      ...count(1),
      outOf: 2,
      query: {},
      short: "2 wires",
    },
    { stage: "routes", id: "total", label: "wire to cut", ...lengthsOf(1234), query: {} },
    { stage: "routes", id: "longest", label: "longest: wire 7", ...lengthOf(1234), query: { wire: "7" } },
    { stage: "routes", id: "fill", label: "fullest duct: W1.2", ...shareOf(12.34), query: { piece: "W1.2" } },
  ],
  key: "k",
  keys: {},
  shopHash: "s",
  shopNewer: false,
  libraryHash: "",
  libraryNewer: false,
  ...more,
});
const detail = (more: Partial<JobDetail> = {}): JobDetail => ({
  ...summary(),
  enclosures: [],
  hinges: {},
  rules: {},
  options: [{ key: "o", text: "lift", chosen: "fitted", choices: ["fitted"] }],
  revisions: [{ revision: "A", designHash: "h", importedAt: "" }],
  files: [{ name: "wires.csv", text: "every wire", stage: "routes" }],
  ...more,
});

const openPoints = {
  open: [
    {
      id: "1",
      stage: "routes",
      severity: "stop",
      kind: "no way",
      thing: "wire",
      of: "7",
      text: "wire 7 has no length",
      remedy: "Mend it.",
    },
  ],
};

const JOBS = "GET /api/jobs?from=0&most=50";

describe("the list of jobs", () => {
  test("comes in pages and is looked through on the server", async () => {
    const codes = Array.from({ length: 60 }, (_, i) => summary({ code: `J-${i}` }));
    serve({
      [JOBS]: [200, { jobs: codes.slice(0, 50), total: 60 }],
      "GET /api/jobs?from=50&most=50": [200, { jobs: codes.slice(50), total: 60 }],
      "GET /api/jobs?from=0&most=50&q=dome": [200, { jobs: [summary({ code: "DOME-1" })], total: 1 }],
      "GET /api/jobs?from=0&most=50&q=nix": [200, { jobs: [], total: 0 }],
    });
    page(<JobsView />);
    await screen.findByTestId("job-J-49");
    expect(screen.queryByTestId("job-J-50")).toBeNull();
    expect(screen.getByTestId("jobs-count").textContent).toBe("50 of 60 jobs");
    fireEvent.click(screen.getByTestId("jobs-more"));
    await screen.findByTestId("job-J-59");
    expect(screen.queryByTestId("jobs-more")).toBeNull();
    fireEvent.change(screen.getByTestId("jobs-find"), { target: { value: "dome" } });
    await screen.findByTestId("job-DOME-1");
    await waitFor(() => expect(screen.queryByTestId("job-J-1")).toBeNull());
    expect(router.setParams).toHaveBeenLastCalledWith({ q: "dome" });
    fireEvent.change(screen.getByTestId("jobs-find"), { target: { value: "nix" } });
    await waitFor(() => expect(screen.getByTestId("empty").textContent).toContain('fits "nix"'));
  });

  test("a file that is being read can be given up", async () => {
    let signal: AbortSignal | undefined;
    const answers = serve({ [JOBS]: [200, { jobs: [], total: 0 }] });
    Object.assign(globalThis, {
      fetch: (path: string, init?: RequestInit) => {
        if (init?.method !== "POST") return answers(path, init) as Promise<Response>;
        signal = init.signal!;
        return new Promise((_, fail) => signal!.addEventListener("abort", () => fail(new Error("aborted"))));
      },
    });
    page(<JobsView />);
    await screen.findByTestId("empty");
    await choose();
    await waitFor(() => expect(signal).toBeDefined());
    await act(async () => {
      fireEvent.click(await screen.findByTestId("stop-reading"));
      await Promise.resolve();
    });
    expect(signal!.aborted).toBe(true);
    expect(screen.getByTestId("left").textContent).toContain("Nothing was imported");
    expect(screen.queryByTestId("failed")).toBeNull();
    expect(screen.queryByTestId("stop-reading")).toBeNull();
  });

  const choose = async (): Promise<void> => {
    const file = Object.assign(new File(["{}"], "my.bench.json"), {
      arrayBuffer: () => Promise.resolve(new ArrayBuffer(2)),
    });
    await act(async () => {
      fireEvent.change(screen.getByTestId("file-input"), { target: { files: [file] } });
      await Promise.resolve();
    });
  };

  test("shows what is open, what is late, and what is not computed", async () => {
    serve({
      [JOBS]: [200, { jobs: [summary(), summary({ code: "B", run: "cancelled", due: null })], total: 2 }],
    });
    page(<JobsView />);
    const card = await screen.findByTestId("job-HILL-1");
    expect(card.textContent).toMatch(/due 15 Jan 2020, \d+ days late.*1 stop2 note/);
    expect(card.getAttribute("href")).toBe("/jobs/HILL-1");
    expect(screen.getByTestId("job-B").textContent).toMatch(/no due date.*computation cancelled/);
  });

  test("says by its stages how it stands and where the work goes on", async () => {
    const stages = (open: Partial<Record<string, Partial<typeof none>>>): JobSummary["stages"] =>
      STAGE_NAMES.map((stage) => ({
        stage,
        state: open[stage] ? "open" : stage === "floor" ? "not started" : "ready",
        open: { ...none, ...open[stage] },
      }));
    const of = (code: string, more: Partial<JobSummary>) => summary({ code, ...more });
    const jobs = [
      of("A", { stages: stages({ intake: { note: 3 }, heat: { stop: 1 }, kits: { stop: 2 } }) }),
      of("B", { stages: stages({ panel: { note: 1 }, routes: { check: 2, note: 1 } }) }),
      of("C", { stages: stages({ routes: { check: 2 } }) }),
      of("D", { stages: stages({}) }),
      of("E", { stages: stages({}), shopNewer: true }),
      of("F", { run: "failed" }),
      of("G", { run: "running" }),
    ];
    serve({ [JOBS]: [200, { jobs, total: jobs.length }] });
    page(<JobsView />);
    await screen.findByTestId("job-G");
    expect(screen.getAllByTestId("next").map((e) => e.textContent)).toEqual([
      "next: Heat, 1 stop",
      "next: Panel, 1 note",
      "next: Routes, 2 checks",
      "everything is decided",
      "next: take over the newer shop",
      "next: compute it again",
      "next: wait for its numbers",
    ]);
    const rule = screen.getAllByTestId("small-rule")[0]!.getAttribute("aria-label");
    expect(rule).toMatch(/^Intake 3 open, Panel ready, Routes ready, Lineups ready, Heat 1 open, /);
    expect(rule).not.toContain("Floor");
  });

  test("says what to do when there is none, and when the server does not answer", async () => {
    serve({ [JOBS]: [200, { jobs: [], total: 0 }] });
    const { unmount } = page(<JobsView />);
    expect((await screen.findByTestId("empty")).textContent).toContain(".bench.json");
    unmount();
    Object.assign(globalThis, { fetch: jest.fn(() => Promise.reject(new Error("down"))) });
    page(<JobsView />);
    expect((await screen.findByTestId("failed")).textContent).toContain("does not answer");
  });

  /** A file that would make a new job is asked about and needs no second word. */
  const outlook = {
    code: "HILL-1",
    title: "t",
    revision: "B",
    replaces: null,
    already: false,
    taken: false,
    things: [],
    unfitting: [],
  };
  const fresh = { "POST /api/jobs/outlook": [200, outlook] as [number, unknown] };

  test("a new revision is stored only after it was seen what it brings", async () => {
    const things = [{ thing: "wire", added: ["9"], gone: [], changed: ["1", "2"] }];
    const unfitting = [{ sentence: "-K1 turned to 90°", reason: "there is no device -K1" }];
    serve({
      [JOBS]: [200, { jobs: [], total: 0 }],
      "POST /api/jobs/outlook": [200, { ...outlook, replaces: "A", things, unfitting }],
      "POST /api/jobs": [201, { already: false, job: summary() }],
    });
    page(<JobsView />);
    await choose();
    const told = (await screen.findByTestId("revision")).textContent!.replaceAll("\u2060", "");
    for (const part of ["revision B would replace A", "1 wire new: 9", "2 wires changed: 1, 2", "-K1 turned to 90°"])
      expect(told).toContain(part);
    expect(router.push).not.toHaveBeenCalled();
    fireEvent.click(screen.getByTestId("revision-take"));
    await waitFor(() => expect(router.push).toHaveBeenCalledWith("/jobs/HILL-1"));
  });

  test("an import leads to the job", async () => {
    serve({
      ...fresh,
      [JOBS]: [200, { jobs: [], total: 0 }],
      "POST /api/jobs": [201, { already: false, job: summary() }],
    });
    page(<JobsView />);
    await choose();
    await waitFor(() => expect(router.push).toHaveBeenCalledWith("/jobs/HILL-1"));
  });

  test.each([
    ["B", ""],
    ["A", " Revision A counts there; B can be put back in its intake."],
  ])("a design that job %s has already says that nothing changed", async (revision, more) => {
    serve({
      ...fresh,
      [JOBS]: [200, { jobs: [], total: 0 }],
      "POST /api/jobs": [200, { already: true, job: summary({ revision }) }],
    });
    page(<JobsView />);
    await choose();
    expect((await screen.findByTestId("already")).textContent).toBe(
      `my.bench.json is the same design that job HILL-1 already has. Nothing was changed.${more}`,
    );
  });

  test("a refusal lists place, found and expected, and how many more there are", async () => {
    const faults = [{ path: "rails[0].run", found: 'text "x"', expected: "one of: right, up" }];
    serve({
      [JOBS]: [200, { jobs: [], total: 0 }],
      "POST /api/jobs/outlook": [
        422,
        {
          code: "design.refused",
          message: "The design was refused.",
          where: "",
          remedy: "Mend it.",
          faults,
          faultCount: 9,
        },
      ],
    });
    page(<JobsView />);
    await choose();
    const told = (await screen.findByTestId("refusal")).textContent;
    for (const part of ["my.bench.json", "rails[0].run", 'found text "x"', "expected one of: right, up", "and 8 more"])
      expect(told).toContain(part);
  });
});

describe("the faults of a refused file as text", () => {
  const body = { code: "c", message: "It was refused.", where: "", remedy: "Mend it." };
  const fault = { path: "a.b", found: "x", expected: "y" };

  test("every fault with place, found and expected", () => {
    expect(faultText("f.json", { ...body, faults: [fault, { ...fault, path: "c" }], faultCount: 5 })).toBe(
      "f.json\nIt was refused.\nMend it.\n\n1. a.b\n   found x\n   expected y\n2. c\n   found x\n   expected y\n\nand 3 more\n",
    );
    expect(faultText("f.json", body)).toBe("f.json\nIt was refused.\nMend it.\n\n");
  });

  test("is shared where the device can, and says when it could not", async () => {
    const share = jest.fn<Promise<void>, [ShareData]>(() => Promise.resolve());
    Object.assign(navigator, { share });
    page(<TextOut text="all of it" fileName="f.txt" title="t" />);
    fireEvent.click(screen.getByTestId("text-share"));
    expect(share).toHaveBeenCalledWith({ title: "t", text: "all of it" });
    share.mockImplementation(() => Promise.reject(new Error("no")));
    fireEvent.click(screen.getByTestId("text-share"));
    await waitFor(() => expect(screen.getByTestId("text-said").textContent).toContain("could not be shared"));
    share.mockImplementation(() => Promise.reject(Object.assign(new Error("no"), { name: "AbortError" })));
    fireEvent.click(screen.getByTestId("text-share"));
    await waitFor(() => expect(screen.getByTestId("text-said").textContent).toBe(""));
    Reflect.deleteProperty(navigator, "share");
  });
});

describe("the job desk", () => {
  const points = {
    "GET /api/jobs/HILL-1": [200, detail()] as [number, unknown],
    "GET /api/jobs/HILL-1/open-points": [200, openPoints] as [number, unknown],
  };

  test("shows the stages with their numbers, what comes next, what is open, and files", async () => {
    serve(points);
    const { unmount } = page(<DeskView job={detail()} progress={null} />);
    const figure = (id: string): [string | null, string | null] => [
      screen.getByTestId(`figure-${id}`).textContent,
      screen.getByTestId(`figure-${id}`).closest("a")!.getAttribute("href"),
    ];
    // On a phone a stage is one line that leads to it.
    expect(figure("wires")).toEqual(["1 of 2 wires with a length", "/jobs/HILL-1/routes"]);
    expect(figure("total")).toEqual(["1.2 m wire to cut", "/jobs/HILL-1/routes"]);
    expect(screen.queryByTestId("figure-longest")).toBe(null);
    expect((await screen.findByTestId("next-point")).getAttribute("href")).toBe("/jobs/HILL-1/routes?wire=7");
    expect(screen.getByTestId("next-step").textContent).toMatch(
      /^1 stop keeps this job from being made whole\.First: wire 7 has no length/,
    );
    unmount();
    wideWindow(1280);
    page(<DeskView job={detail()} progress={null} />);
    expect(figure("longest")).toEqual(["1,234 mm longest: wire 7", "/jobs/HILL-1/routes?wire=7"]);
    expect(figure("fill")).toEqual(["12.3 % fullest duct: W1.2", "/jobs/HILL-1/routes?piece=W1.2"]);
    wideWindow(0);
    fireEvent.click(screen.getByTestId("files-open"));
    expect(screen.getByTestId("file-wires.csv").getAttribute("href")).toBe("/api/jobs/HILL-1/files/wires.csv");
  });

  test("shows progress that can be cancelled", async () => {
    const fetch = serve({ ...points, "DELETE /api/jobs/HILL-1/run": [200, { cancelled: true }] });
    page(
      <DeskView
        job={detail({ run: "running", figures: null })}
        progress={{ run: "running", stage: "routes", share: 0.42 }}
      />,
    );
    expect(screen.getByTestId("running").textContent).toContain("Computing Routes 42 %");
    expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("42");
    fireEvent.click(screen.getByTestId("cancel-run"));
    await waitFor(() => expect(fetch).toHaveBeenCalledWith("/api/jobs/HILL-1/run", { method: "DELETE" }));
  });

  test.each([
    ["failed", "The computation failed."],
    ["cancelled", "The computation was cancelled."],
    ["waiting", "This design has not been computed yet: it waits for its turn."],
  ] as const)("when it is %s, says so and can be started", async (run, text) => {
    const fetch = serve({ ...points, "POST /api/jobs/HILL-1/run": [202, {}] });
    page(<DeskView job={detail({ run, figures: null })} progress={null} />);
    expect(screen.getByTestId("not-computed").textContent).toContain(text);
    fireEvent.click(screen.getByTestId("start-run"));
    await waitFor(() => expect(fetch).toHaveBeenCalledWith("/api/jobs/HILL-1/run", { method: "POST" }));
  });

  test("deletes only after a second tap", async () => {
    const fetch = serve({ ...points, [JOBS]: [200, { jobs: [], total: 0 }], "DELETE /api/jobs/HILL-1": [204, null] });
    page(<DeskView job={detail()} progress={null} />);
    fireEvent.click(screen.getByTestId("delete"));
    fireEvent.click(screen.getByTestId("delete-not"));
    expect(fetch).not.toHaveBeenCalledWith("/api/jobs/HILL-1", { method: "DELETE" });
    fireEvent.click(screen.getByTestId("delete"));
    fireEvent.click(screen.getByTestId("delete-sure"));
    await waitFor(() => expect(router.replace).toHaveBeenCalledWith("/"));
  });

  test("a job with files at machines is deleted only when that was said", async () => {
    const refused = {
      code: "job.at-machine",
      message: "Files of HILL-1 are at Brack 2. Nothing was deleted.",
      where: "HILL-1",
      remedy: "Stop them there first.",
    };
    serve({
      ...points,
      [JOBS]: [200, { jobs: [], total: 0 }],
      "DELETE /api/jobs/HILL-1": [409, refused],
      "DELETE /api/jobs/HILL-1?anyway=true": [204, null],
    });
    jest.mocked(router.replace).mockClear();
    page(<DeskView job={detail()} progress={null} />);
    fireEvent.click(screen.getByTestId("delete"));
    expect(screen.getByTestId("delete-sure").textContent).toBe("Delete");
    fireEvent.click(screen.getByTestId("delete-sure"));
    await screen.findByText("Files of HILL-1 are at Brack 2. Nothing was deleted.");
    expect(screen.getByTestId("delete-sure").textContent).toBe("Delete all the same");
    expect(router.replace).not.toHaveBeenCalled();
    fireEvent.click(screen.getByTestId("delete-sure"));
    await waitFor(() => expect(router.replace).toHaveBeenCalledWith("/"));
  });
});
