import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { Text } from "react-native";
import { Boundary } from "./Boundary";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

/** What goes wrong in the view, as long as something does. */
let fault: Error | null = null;
function View() {
  if (fault) throw fault;
  return <Text testID="view">all is well</Text>;
}
const reload = jest.fn();
let answers = false;
const reach = () => Promise.resolve(answers);
const at = (path: string) => (
  <Boundary path={path} reach={reach} reload={reload}>
    <View />
  </Boundary>
);
const shows = (): string | null =>
  (screen.queryByTestId("view") ?? screen.queryByTestId("trouble"))?.textContent ?? null;

test("a view that goes wrong says so and where else to go; tried again, at another view, when the network is back", async () => {
  jest.spyOn(console, "error").mockImplementation(() => undefined);
  fault = new Error("x is not a function");
  const { rerender } = render(at("/jobs/J%201/routes"));
  expect(shows()).toMatch(
    /^This view cannot be shown\.The program made a mistake.*x is not a function.*Desk of J 1All jobs$/,
  );
  fireEvent.click(screen.getByTestId("trouble-retry"));
  // It went wrong again: now the page is loaded anew.
  expect(shows()).toMatch(/^This view cannot/);
  expect(reload).not.toHaveBeenCalled();
  fireEvent.click(screen.getByTestId("trouble-retry"));
  // The server does not answer: a page that is loaded anew would be none.
  expect(await screen.findByTestId("trouble-refused")).toHaveProperty("textContent", "The server does not answer yet.");
  expect(reload).not.toHaveBeenCalled();
  fault = null;
  rerender(at("/jobs/J%201/panel"));
  expect(shows()).toBe("all is well");
  fault = new Error("Loading module http://shop/_expo/heat.js failed.");
  rerender(at("/jobs/J%201/heat"));
  expect(shows()).toMatch(/^This view has not come yet\..*tried again when the network is back/);
  expect(shows()).not.toContain("heat.js");
  expect(screen.queryByTestId("trouble-refused")).toBe(null);
  answers = true;
  act(() => void window.dispatchEvent(new Event("online")));
  await waitFor(() => expect(reload).toHaveBeenCalledTimes(1));
});

test("it is told in a frame that leads on; where that goes wrong too, without it", () => {
  jest.spyOn(console, "error").mockImplementation(() => undefined);
  fault = new Error("x is not a function");
  let broken = false;
  const Frame = ({ path, children }: { path: string; children: ReactNode }) => {
    if (broken) throw new Error("no frame either");
    return (
      <>
        <Text testID="frame">{path}</Text>
        {children}
      </>
    );
  };
  const framed = () => (
    <Boundary path="/jobs/J/heat" frame={Frame} reach={reach} reload={reload}>
      <View />
    </Boundary>
  );
  const { unmount } = render(framed());
  expect(screen.getByTestId("frame").textContent).toBe("/jobs/J/heat");
  expect(shows()).toMatch(/^This view cannot be shown/);
  unmount();
  broken = true;
  render(framed());
  expect(screen.queryByTestId("frame")).toBe(null);
  expect(shows()).toMatch(/^This view cannot be shown/);
});
