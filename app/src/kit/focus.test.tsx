import { act, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { cameAnew, useFocusKept } from "./focus";

let mockPath = "/jobs/J";
jest.mock("expo-router", () => ({ ...jest.requireActual<object>("../test/router"), usePathname: () => mockPath }));

let show: (what: string) => void = () => undefined;
/** A view of some parts, each of which can go. */
function Page() {
  const [what, setWhat] = useState("row field details");
  show = setWhat;
  useFocusKept();
  const has = (part: string) => what.includes(part);
  return (
    <main tabIndex={-1}>
      {has("late") ? null : <h1 data-testid="heading">{mockPath}</h1>}
      {has("row") ? <button data-testid="row">row</button> : null}
      {has("field") ? <input data-testid="field" /> : null}
      {has("act") ? <button data-testid="act">act</button> : null}
      {has("chosen") ? (
        <aside aria-label="Details">
          <h2 data-testid="of-details">-K1</h2>
        </aside>
      ) : null}
    </main>
  );
}
const to = (what: string) => act(() => show(what));
const focused = () => (document.activeElement as HTMLElement | null)?.dataset["testid"];
const focus = (id: string) => act(() => screen.getByTestId(id).focus());

afterEach(() => (mockPath = "/jobs/J"));

test("a focus whose place goes is given to the last place that stands, but not to a field, in which keys would be typed", async () => {
  render(<Page />);
  focus("row");
  focus("field");
  to("row field act");
  focus("act");
  to("row field");
  await waitFor(() => expect(focused()).toBe("row"));
});

test("in another view, and of what was chosen in a sheet, it is the heading of what came, also when that comes late", async () => {
  const { rerender } = render(<Page />);
  focus("row");
  mockPath = "/jobs/J/routes";
  to("late");
  rerender(<Page />);
  await waitFor(() => expect(document.activeElement?.tagName).toBe("MAIN"));
  act(() => (document.activeElement as HTMLElement).blur());
  to("field");
  await waitFor(() => expect(focused()).toBe("heading"));
  to("row chosen");
  act(() => ((document.activeElement as HTMLElement).blur(), cameAnew()));
  await waitFor(() => expect(focused()).toBe("of-details"));
});

test("a page that was only opened leaves the focus at its top; one that stands somewhere is left alone", async () => {
  render(<Page />);
  to("row");
  await act(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  expect(document.activeElement).toBe(document.body);
  focus("row");
  to("row act");
  await act(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  expect(focused()).toBe("row");
});
