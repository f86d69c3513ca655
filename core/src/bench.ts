/** What works on designs and shops as a whole, in one piece: an app loads it when it is first wanted. */
export { EDITS } from "./edits";
export { EXAMPLES, RULES, RULE_USE } from "./rules";
export { checkShop, readShop } from "./shop/shop";
