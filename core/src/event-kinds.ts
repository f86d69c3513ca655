import { FACES } from "./faces";
import type { AnyEventKind } from "./frame/event-kind";
import { TICK } from "./frame/tick-kind";

/** Every kind of what happens: ticks, and those of the stages. */
export const EVENT_KINDS: readonly AnyEventKind[] = [TICK as AnyEventKind, ...FACES.flatMap((f) => f.events ?? [])];
