import type { NewPoint } from "./open-points";

/** Why there are no lengths, holes and temperatures as long as nobody has said where anything stands: lists come first, drawings later. */
export const NO_LAYOUT = "there is no layout yet";

/** What a stage lacks then: told once, not once for each device or wire. */
export const noLayout = (
  thing: Extract<NewPoint["thing"], "job" | "device" | "wire">,
  of: string,
  what: string,
): NewPoint => ({
  severity: "stop",
  kind: "no layout",
  thing,
  of,
  text: `${what}: ${NO_LAYOUT}`,
  remedy: "Bring it with the next revision of the design.",
});
