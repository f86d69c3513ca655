import type { Category, Design } from "../design/model";
import { byText } from "../design/order";

/** What no device is. */
const OTHERS: ReadonlySet<Category> = new Set(["rail", "duct", "wire", "cable"]);

/** Numbers of the parts of a design that a device may be, those of one kind first where it is given. */
export const deviceParts = ({ parts }: Design, first?: Category): string[] =>
  [...new Map(parts.map((p) => [p.number, p.category]))]
    .filter(([, category]) => !OTHERS.has(category))
    .sort(([a, of], [b, other]) => Number(other === first) - Number(of === first) || byText(a, b))
    .map(([number]) => number);
