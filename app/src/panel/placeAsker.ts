import type { PlacingBase } from "@gray-bench/core/placing";
import { Asker } from "../kit/asker";
import { makePlaceWorker } from "./makePlaceWorker";
import type { PlaceAnswer, PlaceQuestion } from "./placeWorker";

type Without<T> = T extends { id: number } ? Omit<T, "id"> : never;

/** Asks the worker that tries places. */
export type PlaceAsker = Asker<Without<PlaceQuestion>, PlaceAnswer>;

export const askPlaces = (base: PlacingBase): PlaceAsker =>
  new Asker(makePlaceWorker(), { kind: "base", base } satisfies PlaceQuestion);
