import { act, render, screen, waitFor } from "@testing-library/react";
import { Text } from "react-native";
import { useLive, type Hearing } from "./live";

/** A line of the browser, spoken on by the test. */
class FakeSource extends EventTarget {
  static readonly CLOSED = 2;
  static readonly made: FakeSource[] = [];
  closed = false;
  readyState = 1;
  constructor(readonly url: string) {
    super();
    FakeSource.made.push(this);
  }
  close(): void {
    this.closed = true;
  }
  say(type: string, data?: object): void {
    act(() => void this.dispatchEvent(data ? new MessageEvent(type, { data: JSON.stringify(data) }) : new Event(type)));
  }
}

const heard: string[] = [];
const hears: Hearing = {
  happened: ({ kind, thing }) => void heard.push(`${kind} ${thing ?? "all"}`),
  changed: ({ key }) => void heard.push(key),
};

function Probe() {
  return <Text testID="probe">{useLive("J 1", hears) ? "at once" : "now and then"}</Text>;
}

test("one line for all of a window, which breaks, comes back, and is given up when nobody looks or hears; not beside three of other windows", async () => {
  Object.assign(globalThis, { EventSource: FakeSource });
  let visible = "visible";
  jest.spyOn(document, "visibilityState", "get").mockImplementation(() => visible as DocumentVisibilityState);
  const look = (now: string): void => {
    visible = now;
    act(() => void document.dispatchEvent(new Event("visibilitychange")));
  };
  const says = (): string[] => screen.getAllByTestId("probe").map((p) => p.textContent!);
  const { unmount } = render(
    <>
      <Probe />
      <Probe />
    </>,
  );
  await waitFor(() => expect(FakeSource.made).toHaveLength(1));
  const [first] = FakeSource.made;
  expect([FakeSource.made.length, first!.url]).toEqual([1, "/api/jobs/J%201/live"]);
  expect(says()).toEqual(["now and then", "now and then"]);
  first!.say("open");
  expect(says()).toEqual(["at once", "at once"]);
  first!.say("happened", { kind: "tick", thing: "l" });
  first!.say("happened", { kind: "pick" });
  first!.say("changed", { key: "k2" });
  first!.say("progress", { key: "k2", run: "running", stage: null, share: 0 });
  expect(heard).toEqual(["tick l", "tick l", "pick all", "pick all", "k2", "k2"]);
  first!.say("error");
  expect(says()).toEqual(["now and then", "now and then"]);
  first!.say("open");
  look("hidden");
  expect(first!.closed).toBe(true);
  expect(says()).toEqual(["now and then", "now and then"]);
  look("visible");
  await waitFor(() => expect(FakeSource.made).toHaveLength(2));
  unmount();
  expect(FakeSource.made[1]!.closed).toBe(true);
  const others = new BroadcastChannel("gray-bench.live");
  let asked = 0;
  others.onmessage = ({ data }: MessageEvent<object>) => {
    // They are closed after the first question.
    if ("asks" in data && ++asked === 1) for (const holds of ["w-1", "w-2", "w-3"]) others.postMessage({ holds });
  };
  render(<Probe />);
  await waitFor(() => expect(asked).toBe(1));
  look("hidden");
  look("visible");
  // Had it got a line at the first question, it would not have asked again.
  await waitFor(() => expect([asked, FakeSource.made.length]).toEqual([2, 3]));
  // A line that the server does not give is let go.
  Object.assign(FakeSource.made[2]!, { readyState: FakeSource.CLOSED }).say("error");
  expect(FakeSource.made[2]!.closed).toBe(true);
  others.close();
});
