import type { ShopReply } from "@gray-bench/contract/shop";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import * as bench from "@gray-bench/core/bench";
import { page, serve } from "../test/page";
import { ShopView } from "./ShopView";

jest.mock("@gray-bench/core/shop/stage-rules", () => {
  const { STAGE_RULES } = jest.requireActual<{ STAGE_RULES: object[] }>("@gray-bench/core/shop/stage-rules");
  return {
    STAGE_RULES: [...STAGE_RULES, jest.requireActual<{ RULES: object }>("@gray-bench/core/test/toy/rules").RULES],
  };
});
jest.mock("@gray-bench/core/faces", () => {
  const { FACES } = jest.requireActual<{ FACES: object[] }>("@gray-bench/core/faces");
  return { FACES: [...FACES, jest.requireActual<{ face: object }>("@gray-bench/core/test/toy/face").face] };
});
jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const current: ShopReply = {
  hash: "h",
  name: DEFAULT_SHOP.name,
  who: "Ina",
  when: "2026-11-20T10:00:00Z",
  why: null,
  changes: [],
  shop: DEFAULT_SHOP,
} as unknown as ShopReply;

test("rules of a stage that nobody needs stand in the shop under its title, checked and put into words like any", async () => {
  serve({
    "GET /api/jobs": [200, { jobs: [], next: null }],
    "GET /api/jobs?older=true": [200, { jobs: [], next: null }],
    "GET /api/shop/versions": [200, { versions: [] }],
  });
  expect(bench.EDITS.names()).toContain("say what is tested");
  page(<ShopView current={current} bench={bench} section="handover" />);
  expect(screen.getByText("Handover", { selector: "h1" })).toBeTruthy();
  const field = screen.getByTestId("rule-handover.testMin");
  expect(field).toHaveProperty("value", "12");
  fireEvent.change(field, { target: { value: "601" } });
  fireEvent.blur(field);
  await waitFor(() => expect(screen.getAllByText("This goes from 0 to 600 min.").length).toBeGreaterThan(0));
  fireEvent.change(field, { target: { value: "20" } });
  fireEvent.blur(field);
  await waitFor(() => expect(screen.getAllByText(/testing an enclosure: 20 min \(was 12\)/)).toHaveLength(1));
});
