import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { Text } from "react-native";
import { page } from "../test/page";
import { ApiError } from "./api";
import { BottomSheet } from "./BottomSheet";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { Field } from "./Field";
import { thingHref } from "./links";
import { Overlay } from "./Overlay";
import { Rule } from "./Rule";
import { Counts } from "./Severity";
import { useSettings } from "./settings";
import { SettingsPanel } from "./SettingsPanel";
import { Split } from "./Split";
import { Failed } from "./States";
import { joinClasses } from "./Text";
import { day, night } from "./tokens";
import { EndSign, WireSwatch } from "./WireSign";
import { THINGS } from "@gray-bench/core/design/open-points";
import { COLOURS } from "@gray-bench/core/design/model";
import { END_TREATMENTS } from "@gray-bench/core/design/model";
import { STAGE_NAMES } from "@gray-bench/core/stage-names";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

beforeEach(() => localStorage.clear());

const open = (stop: number, check = 0, note = 0) => ({ stop, check, note });

describe("the Rule", () => {
  const stages = STAGE_NAMES.map((stage, i) => ({
    stage,
    state:
      i === 0
        ? ("ready" as const)
        : i === 1
          ? ("open" as const)
          : i === 2
            ? ("stale" as const)
            : i === 3
              ? ("not computed" as const)
              : ("not started" as const),
    open: i === 1 ? open(1, 2) : open(0),
  }));

  test.each([true, false])(
    "says the state of each stage in words; stages not built lead nowhere (wide: %s)",
    (wide) => {
      page(<Rule job="J" stages={stages} wide={wide} />);
      expect(STAGE_NAMES.map((s) => screen.getByTestId(`rule-${s}`).textContent)).toEqual([
        "Intake1 · ready",
        "Panel2 · 3 open",
        "Routes3 · stale",
        "Lineups4 · not computed",
        ...["Heat", "Metalwork", "Kits", "Wire prep", "Floor", "Handover"].map((t, i) => `${t}${i + 5} · not started`),
      ]);
      expect(STAGE_NAMES.map((s) => screen.getByTestId(`rule-${s}`).getAttribute("href"))).toEqual([
        "/jobs/J/intake",
        "/jobs/J/panel",
        "/jobs/J/routes",
        "/jobs/J/lineups",
        ...Array<null>(6).fill(null),
      ]);
      expect(screen.getByTestId("rule-routes").getAttribute("aria-current")).toBe("page");
    },
  );
});

test("counts name the severity in words, or that nothing is open", () => {
  const { container, unmount } = page(<Counts open={open(2, 0, 1)} />);
  expect(container.textContent).toBe("2 stop1 note");
  unmount();
  expect(page(<Counts open={open(0)} />).container.textContent).toBe("nothing open");
});

test("an error says what, where and what to do, and lets one try again", () => {
  const retry = jest.fn();
  page(
    <Failed
      error={
        new ApiError(404, { code: "job.unknown", message: "There is no job X.", where: "X", remedy: "Import it." })
      }
      retry={retry}
    />,
  );
  expect(screen.getByRole("alert").textContent).toContain("There is no job X.XImport it.");
  fireEvent.click(screen.getByTestId("retry"));
  expect(retry).toHaveBeenCalledTimes(1);
});

test("every kind of thing has a place that shows it", () => {
  expect(Object.fromEntries(THINGS.map((thing) => [thing, thingHref("J 1", thing, "-K1")]))).toEqual({
    job: "/jobs/-K1",
    enclosure: "/jobs/J%201/panel?enclosure=-K1",
    face: "/jobs/J%201/panel?face=-K1",
    rail: "/jobs/J%201/panel?rail=-K1",
    part: "/jobs/J%201/panel?part=-K1",
    device: "/jobs/J%201/panel?device=-K1",
    duct: "/jobs/J%201/routes?duct=-K1",
    piece: "/jobs/J%201/routes?piece=-K1",
    crossing: "/jobs/J%201/routes?crossing=-K1",
    net: "/jobs/J%201/routes?net=-K1",
    wire: "/jobs/J%201/routes?wire=-K1",
    cable: "/jobs/J%201/intake?cable=-K1",
    option: "/jobs/J%201/intake?option=-K1",
    attachment: "/jobs/J%201/intake?attachment=-K1",
    strip: "/jobs/J%201/lineups?strip=-K1",
    edit: "/jobs/J%201/history?edit=-K1",
  });
});

test("a class given replaces the standard one of its kind and keeps the others", () => {
  const standard = "font-text text-body text-graphite";
  expect(joinClasses(standard, undefined)).toBe(standard);
  expect(joinClasses(standard, "font-strong text-brick")).toBe("text-body font-strong text-brick");
  expect(joinClasses(standard, "text-lead flex-1")).toBe("font-text text-graphite text-lead flex-1");
  expect(joinClasses(standard, "text-right")).toBe(`${standard} text-right`);
});

test("one of a few: the chosen one is pressed, another can be chosen", () => {
  const choose = jest.fn();
  page(
    <Choice
      label="Order"
      value="a"
      options={[
        ["a", "first"],
        ["b", "second"],
      ]}
      choose={choose}
      testID="order"
    />,
  );
  expect(screen.getByTestId("order-a").getAttribute("aria-pressed")).toBe("true");
  fireEvent.click(screen.getByTestId("order-b"));
  expect(choose).toHaveBeenCalledWith("b");
});

test("a field has a label and tells what is typed; a disabled button does nothing", () => {
  const change = jest.fn();
  const press = jest.fn();
  page(
    <>
      <Field label="Device" value="" change={change} testID="field" hideLabel />
      <Button label="Go" onPress={press} disabled testID="go" />
    </>,
  );
  fireEvent.change(screen.getByLabelText("Device"), { target: { value: "-K1" } });
  expect(change).toHaveBeenCalledWith("-K1");
  fireEvent.click(screen.getByTestId("go"));
  expect(press).not.toHaveBeenCalled();
});

test("the sheet rises and lowers, and lets go", () => {
  const close = jest.fn();
  page(
    <BottomSheet testID="sheet" head={<Text>head</Text>} close={close}>
      <Text>inside</Text>
    </BottomSheet>,
  );
  const height = (): string => screen.getByTestId("sheet").style.height;
  const low = height();
  fireEvent.click(screen.getByTestId("sheet-toggle"));
  expect(parseFloat(height())).toBeGreaterThan(parseFloat(low));
  fireEvent.click(screen.getByTestId("sheet-close"));
  expect(close).toHaveBeenCalledTimes(1);
});

test("a dialog takes the focus, keeps it going round while what lies behind is out of reach, and gives it back", async () => {
  function Host() {
    const [shown, setShown] = useState(false);
    return (
      <>
        <button data-testid="opener" onClick={() => setShown(true)}>
          open
        </button>
        {shown ? (
          <Overlay title="Dialog" close={() => setShown(false)} testID="dialog">
            <Text>inside</Text>
            <button data-testid="last">last</button>
          </Overlay>
        ) : null}
      </>
    );
  }
  const { container } = page(<Host />);
  const opener = screen.getByTestId("opener");
  opener.focus();
  fireEvent.click(opener);
  const last = screen.getByTestId("last");
  expect(document.activeElement).toBe(last);
  expect(container.inert).toBe(true);
  fireEvent.keyDown(last, { key: "Tab" });
  expect(document.activeElement).toBe(screen.getByTestId("dialog-close"));
  fireEvent.keyDown(document.activeElement!, { key: "Tab", shiftKey: true });
  expect(document.activeElement).toBe(last);
  fireEvent.keyDown(document.activeElement!, { key: "Escape" });
  await waitFor(() => expect(screen.queryByTestId("dialog")).toBeNull());
  expect(container.inert).toBe(false);
  expect(document.activeElement).toBe(opener);
});

test("units and light are kept on the device", () => {
  function Shown() {
    const { length, size, light } = useSettings();
    return <Text testID="shown">{`${length} ${size} ${light}`}</Text>;
  }
  const first = page(
    <>
      <Shown />
      <SettingsPanel close={() => undefined} />
    </>,
  );
  fireEvent.click(screen.getByTestId("unit-length-in"));
  fireEvent.click(screen.getByTestId("light-night"));
  expect(screen.getByTestId("shown").textContent).toBe("in mm2 night");
  first.unmount();
  page(<Shown />);
  expect(screen.getByTestId("shown").textContent).toBe("in mm2 night");
});

test("broken settings on the device are passed over", () => {
  localStorage.setItem("gray-bench.settings", "{");
  function Shown() {
    return <Text testID="shown">{useSettings().length}</Text>;
  }
  page(<Shown />);
  expect(screen.getByTestId("shown").textContent).toBe("mm");
});

test("panes are widened with the arrow keys, within bounds", () => {
  page(
    <Split
      panes={[
        { key: "list", width: 300, label: "list", node: <Text>l</Text> },
        { key: "rest", label: "rest", node: <Text>r</Text> },
      ]}
    />,
  );
  const bar = screen.getByRole("separator");
  const now = (): number => Number(bar.getAttribute("aria-valuenow"));
  fireEvent.keyDown(bar, { key: "ArrowRight" });
  expect(now()).toBe(324);
  for (let i = 0; i < 20; i++) fireEvent.keyDown(bar, { key: "ArrowLeft" });
  expect(now()).toBe(220);
});

test("every colour and every end treatment has a sign of its own; the unknown ones differ from all", () => {
  const drawn = (node: React.ReactNode): string => page(node).container.innerHTML;
  const swatches = [...COLOURS, null].map((c) => drawn(<WireSwatch colour={c} />));
  expect(new Set(swatches).size).toBe(COLOURS.length + 1);
  const ends = [...END_TREATMENTS, null].map((e) => drawn(<EndSign end={e} />));
  expect(new Set(ends).size).toBe(END_TREATMENTS.length + 1);
});

describe("contrast of the tokens is at least 4.5 to 1", () => {
  const light = (hex: string): number => {
    const [r, g, b] = [1, 3, 5].map((i) => {
      const v = parseInt(hex.slice(i, i + 2), 16) / 255;
      return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  };
  const contrast = (a: string, b: string): number => {
    const [x, y] = [light(a), light(b)].sort((p, q) => q - p);
    return (x! + 0.05) / (y! + 0.05);
  };
  test.each([["day", day] as const, ["night", night] as const])("%s", (_name, t) => {
    for (const ink of [t.graphite, t.slate, t.verdigris, t.ochre, t.brick, t.harbour]) {
      for (const ground of [t.paper, t.tray])
        expect([ink, ground, contrast(ink, ground) >= 4.5]).toEqual([ink, ground, true]);
    }
    expect(contrast(t.onVerdigris, t.verdigris)).toBeGreaterThanOrEqual(4.5);
  });
});
