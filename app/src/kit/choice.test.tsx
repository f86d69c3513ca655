import { renderHook } from "@testing-library/react";
import { router } from "expo-router";
import { choose, useShown } from "./choice";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const setParams = router.setParams as jest.Mock;
/** The router replaces the entry, as the real one does. */
const replaces = (): void => {
  setParams.mockImplementation((params: Record<string, string | undefined>) => {
    const url = new URL(window.location.href);
    for (const [name, value] of Object.entries(params))
      if (value === undefined) url.searchParams.delete(name);
      else url.searchParams.set(name, value);
    window.history.replaceState(window.history.state, "", url);
  });
};

const back = (): Promise<void> =>
  new Promise((resolve) => {
    window.addEventListener("popstate", () => resolve(), { once: true, capture: true });
    window.history.back();
  });

beforeEach(() => {
  setParams.mockReset();
  replaces();
  window.history.replaceState(null, "", "/jobs/J/routes");
  renderHook(() => useShown());
});

test("each choice is an entry; Back undoes the last one and lets go of what it named", async () => {
  const before = window.history.length;
  choose({ wire: "1" });
  choose({ wire: "2", others: "net" });
  expect([window.location.search, window.history.length - before]).toEqual(["?wire=2&others=net", 2]);
  const gone = back();
  await gone;
  expect(window.location.search).toBe("?wire=1");
  expect(setParams).toHaveBeenLastCalledWith(expect.objectContaining({ wire: "1", others: undefined }));
});

test("what is chosen already makes no entry; a walk from row to row makes one", () => {
  choose({ wire: "1" });
  const before = window.history.length;
  choose({ wire: "1" });
  choose({ wire: "2" }, true);
  choose({ wire: "3" }, true);
  choose({ wire: "4" }, true);
  expect([window.location.search, window.history.length - before]).toEqual(["?wire=4", 1]);
});
