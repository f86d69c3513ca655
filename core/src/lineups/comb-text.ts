import type { Jumper } from "./result";

/** The combs that a jumper is made of: `comb J3, cut to 2 teeth`; why there is none. */
export function combText({ part, combs, teeth, misfit }: Jumper): string {
  if (misfit !== undefined) return `no comb: ${misfit}`;
  if (part === null) return "no comb of the library fits";
  return combs > 1
    ? `${combs} combs ${part} of together ${teeth} teeth, each sharing a member with the next`
    : `comb ${part}, cut to ${teeth} teeth`;
}
