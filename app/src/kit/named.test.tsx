import { fireEvent, screen } from "@testing-library/react";
import { Text } from "react-native";
import { page } from "../test/page";
import { choose } from "./choice";
import { Named, type NamedThing } from "./Named";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));
jest.mock("./choice", () => ({ choose: jest.fn() }));

const thing = (param: string, name: string | undefined, there: boolean): NamedThing => ({
  param,
  what: `${param} of wires`,
  name,
  there,
});
const shown = (things: NamedThing[]) =>
  page(
    <Named things={things}>
      <Text testID="view">view</Text>
    </Named>,
  );

test("what an address names and is not there is told above the view, the first of it, and let go", () => {
  const { unmount } = shown([thing("duct", undefined, false), thing("wire", "214", true)]);
  expect([screen.queryByTestId("not-here"), screen.getByTestId("view").textContent]).toEqual([null, "view"]);
  unmount();
  shown([thing("wire", "214", true), thing("duct", "W99", false), thing("piece", "W1.9", false)]);
  expect(screen.getByTestId("not-here").textContent).toMatch(/^There is no duct of wires W99 here\. It may have been/);
  expect(screen.getByTestId("view").textContent).toBe("view");
  fireEvent.click(screen.getByTestId("not-here-close"));
  expect(choose).toHaveBeenCalledWith({ duct: undefined });
});
