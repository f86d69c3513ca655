import type { FurnishAsk } from "@gray-bench/core/panel/furnish";
import type { Clash } from "@gray-bench/core/panel/result";
import { Placings, type PlacingBase, type WiresThen } from "@gray-bench/core/placing";

/** Works out places beside the page. A question with a base replaces what is known; answers carry its number. */
export type PlaceQuestion =
  | { kind: "base"; base: PlacingBase }
  | { kind: "clashes"; id: number; edit: { kind: string; payload: object }; of: string }
  | { kind: "wires"; id: number; edit: { kind: string; payload: object } }
  | { kind: "furnish"; id: number; ask: FurnishAsk };
export type PlaceAnswer =
  | { id: number; clashes: Clash[] }
  | { id: number; wires: WiresThen }
  | { id: number; furnished: ReturnType<Placings["furnish"]> }
  | { id: number; failed: string };

let placings: Placings | null = null;

export function answer(question: PlaceQuestion): PlaceAnswer | null {
  if (question.kind === "base") {
    placings = new Placings(question.base);
    return null;
  }
  const { id } = question;
  try {
    if (!placings) throw new Error("nothing is known yet");
    switch (question.kind) {
      case "clashes":
        return { id, clashes: placings.clashes(question.edit, question.of) };
      case "wires":
        return { id, wires: placings.wires(question.edit) };
      case "furnish":
        return { id, furnished: placings.furnish(question.ask) };
    }
  } catch (error) {
    return { id, failed: error instanceof Error ? error.message : String(error) };
  }
}

/** In a worker its global is no window. */
if (typeof window === "undefined" && typeof self !== "undefined")
  self.onmessage = ({ data }: MessageEvent<PlaceQuestion>) => {
    const given = answer(data);
    if (given) self.postMessage(given);
  };
