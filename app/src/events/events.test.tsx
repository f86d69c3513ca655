import type { EventRequest } from "@gray-bench/contract/events";
import type { TickEvent } from "@gray-bench/core/frame/ticks";
import { act, screen, waitFor } from "@testing-library/react";
import { Text } from "react-native";
import { page } from "../test/page";
import { waitingHere } from "../test/waiting";
import { useTicks } from "./useTicks";

let tick: (items: readonly string[], is: boolean) => void;

function Probe() {
  const { done, tick: say, waiting, error } = useTicks("J-1", "list");
  tick = say;
  const items = [...done].filter(([, t]) => t.done).map(([item]) => item);
  return <Text testID="probe">{`${items.sort().join()} waiting ${waiting} ${error?.message ?? "well"}`}</Text>;
}

test("of several one that is refused is told and let go, the others come in; what comes too fast is said again", async () => {
  const kept: TickEvent[] = [];
  const answers: number[] = [];
  Object.assign(globalThis, {
    fetch: (_: string, init: { body: string }) => {
      const { since, events } = JSON.parse(init.body) as EventRequest<TickEvent>;
      const [status, body] = events.some((e) => e.item === "bad")
        ? [400, { code: "request.invalid", message: "item: no such item.", where: "item", remedy: "" }]
        : events.length > 0 && answers.length === 1
          ? [429, { code: "rate.limit", message: "too fast", where: "", remedy: "" }]
          : [200, null];
      answers.push(status as number);
      const known = new Set(kept.map((e) => e.id));
      if (status === 200) kept.push(...events.filter((e) => !known.has(e.id)));
      const reply = body ?? { events: kept.slice(since), last: kept.length };
      return Promise.resolve({
        headers: new Headers(),
        status,
        ok: status === 200,
        text: () => Promise.resolve(JSON.stringify(reply)),
      });
    },
  });
  page(<Probe />);
  await waitFor(() => expect(answers).toEqual([200]));
  act(() => tick(["a"], true));
  await waitFor(() => expect(answers).toContain(429));
  act(() => tick(["bad", "b"], true));
  await waitFor(() => expect(screen.getByTestId("probe").textContent).toBe("a,b waiting 0 item: no such item."), {
    timeout: 20_000,
  });
  expect(kept.map((e) => e.item)).toEqual(["a", "b"]);
  await waitFor(async () => expect(await waitingHere()).toEqual([]));
});
