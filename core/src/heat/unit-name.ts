import type { UnitFit } from "./result";

/** `2 × TT-CU600 with TT-H60` */
export const unitName = ({ parts }: Pick<UnitFit, "parts">): string =>
  parts.map((p) => (p.count > 1 ? `${p.count} × ${p.number}` : p.number)).join(" with ");

/** The same as it stands in an address. */
export const unitKey = ({ parts }: Pick<UnitFit, "parts">): string =>
  parts.map((p) => `${p.count}x${p.number}`).join("+");
