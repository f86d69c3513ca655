import { fireEvent, render } from "@testing-library/react";
import { useKeys, type Keys } from "./useKeys";

function Listener({ keys, modal }: { keys: Keys; modal?: boolean }) {
  useKeys(keys, modal);
  return <input aria-label="field" />;
}

test("the one mounted last takes a key; a modal one lets none through", () => {
  const heard: string[] = [];
  const under = { a: () => heard.push("under a"), b: () => heard.push("under b") };
  const page = render(<Listener keys={under} />);
  const over = render(<Listener keys={{ a: () => heard.push("over a") }} modal />);
  fireEvent.keyDown(document.body, { key: "a" });
  fireEvent.keyDown(document.body, { key: "b" });
  over.unmount();
  fireEvent.keyDown(document.body, { key: "b" });
  fireEvent.keyDown(document.body, { key: "a", ctrlKey: true });
  page.unmount();
  fireEvent.keyDown(document.body, { key: "b" });
  expect(heard).toEqual(["over a", "under b"]);
});

test("while something is typed only Escape is heard", () => {
  const heard: string[] = [];
  const { getByLabelText } = render(
    <Listener keys={{ "/": () => heard.push("/"), Escape: () => heard.push("Escape") }} />,
  );
  fireEvent.keyDown(getByLabelText("field"), { key: "/" });
  fireEvent.keyDown(getByLabelText("field"), { key: "Escape" });
  expect(heard).toEqual(["Escape"]);
});
