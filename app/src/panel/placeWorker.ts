import { Placings, type Placing, type PlacingBase } from "@gray-bench/core/placing";

/** Works out places beside the page. A question with a base replaces what is known; answers carry its number. */
export type PlaceQuestion =
  | { kind: "base"; base: PlacingBase }
  | { kind: "place"; id: number; edit: { kind: string; payload: object }; of: string };
export type PlaceAnswer = { id: number; placing: Placing } | { id: number; failed: string };

let placings: Placings | null = null;

export function answer(question: PlaceQuestion): PlaceAnswer | null {
  if (question.kind === "base") {
    placings = new Placings(question.base);
    return null;
  }
  const { id, edit, of } = question;
  try {
    if (!placings) throw new Error("nothing is known yet");
    return { id, placing: placings.run(edit, of) };
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
