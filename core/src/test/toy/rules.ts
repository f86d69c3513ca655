import { countRule, type StageRules } from "../../shop/rule-kinds";

export const RULES: StageRules = {
  stage: "handover",
  rules: { handover: { testMin: countRule(12, 600, "testing an enclosure", "Before it leaves the shop.", "min") } },
};
