import type { JobDetail } from "@gray-bench/contract/jobs";
import { NET_CLASSES } from "@gray-bench/core/design/model";
import type { OwnRouteRules } from "@gray-bench/core/routes/rules";
import { OWN_ROUTE_RULES } from "@gray-bench/core/routes/rules";
import type { AnyRule } from "@gray-bench/core/shop/rule-kinds";
import type { Rules } from "@gray-bench/core/shop/rules";
import { ScrollView, View } from "react-native";
import type { Act, Shaped } from "@gray-bench/core/frame/act";
import { Acts } from "../edits/Acts";
import { LinkLine } from "../kit/Button";
import { formatLength, formatSize } from "../kit/format";
import { shopHref } from "../kit/links";
import { useSettings, type Settings } from "../kit/settings";
import { Body, Head, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";

type Key = keyof OwnRouteRules;
type Pairs = OwnRouteRules["apart"];

const PAIR = /^\s*(\w+)\s+before\s+(\w+)\s*$/;
const pairsText = (pairs: Pairs): string => pairs.map((p) => p.join(" before ")).join(", ");

/** `drive before signal, control before supply`; or why it cannot be read. */
function readPairs(text: string): Pairs | string {
  const pairs: Pairs = [];
  for (const one of text.split(",").filter((t) => t.trim() !== "")) {
    const [, a, b] = PAIR.exec(one) ?? [];
    const [first, second] = [a, b].map((c) => NET_CLASSES.find((n) => n === c));
    if (!first || !second)
      return `"${one.trim()}" is not two classes of ${NET_CLASSES.join(", ")} with "before" between them.`;
    pairs.push([first, second]);
  }
  return pairs;
}

function valueText(rule: AnyRule, value: number | Pairs, settings: Settings): string {
  if (typeof value !== "number") return pairsText(value) || "none";
  if (rule.as === "number" && rule.unit === "mm") return formatLength(value, settings);
  if (rule.as === "number" && rule.unit === "mm²") return formatSize(value, settings);
  return `${value} ${rule.as === "number" ? rule.unit : ""}`.trim();
}

function setAct(key: Key, rule: AnyRule, now: number | Pairs): Act {
  const common = {
    id: `set-${key}`,
    label: "Set for this job",
    title: "Set for this job",
    about: `${rule.text}: ${rule.why}`,
    kind: "set rules",
    payloads: [{ rules: {} }],
  };
  if (rule.as !== "number") {
    return {
      ...common,
      asks: [
        {
          field: key,
          label: `${rule.text}: pairs, the first of a pair chooses its way first`,
          as: "text",
          optional: true,
          now: pairsText(now as Pairs),
        },
      ],
      shape({ values }): Shaped {
        const pairs = readPairs(String(values[key] ?? ""));
        return typeof pairs === "string"
          ? { ok: false, field: key, reason: pairs }
          : { ok: true, payload: { rules: { [key]: pairs } } };
      },
    };
  }
  const as = rule.unit === "mm" ? "length" : rule.unit === "mm²" ? "size" : "amount";
  return {
    ...common,
    asks: [
      {
        field: key,
        label: as === "amount" && rule.unit ? `${rule.text} (${rule.unit})` : rule.text,
        as,
        now: now as number,
      },
    ],
    shape({ values }): Shaped {
      const value = Number(values[key]);
      return value < rule.min || value > rule.max
        ? {
            ok: false,
            field: key,
            reason: `This goes from ${rule.min} to ${rule.max.toLocaleString("en-GB")} ${rule.unit}.`,
          }
        : { ok: true, payload: { rules: { [key]: value } } };
    },
  };
}

const backAct = (key: Key, rule: AnyRule): Act => ({
  id: `back-${key}`,
  label: "Reset to the shop's",
  title: "Reset to the shop's",
  about: `${rule.text} counts as the shop has it.`,
  kind: "set rules",
  payloads: [{ rules: { [key]: null } }],
  asks: [],
});

/** Which rules this job has of its own, and what the shop has. */
export function JobRules({ job, shop }: { job: JobDetail; shop: Rules }) {
  const settings = useSettings();
  const own = job.rules.routes ?? {};
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
      <Title>Rules of this job</Title>
      <Small>
        What stands here lies on top of the shop's rules, for {job.code} alone. Colours and sizes by class are set in
        Intake.
      </Small>
      <LinkLine href={shopHref("routes")} label="The shop's rules" />
      <Tray className="p-3">
        <Head>Routes</Head>
        {(Object.entries(OWN_ROUTE_RULES) as [Key, AnyRule][]).map(([key, rule]) => {
          const ours = own[key];
          const theirs = shop.routes[key];
          return (
            <View
              key={key}
              testID={`job-rule-${key}`}
              className="gap-2 border-t border-line py-3 md:flex-row md:items-center md:gap-4"
            >
              <View className="gap-1 md:flex-1">
                <Body className="font-medium">{rule.text}</Body>
                <Small>{rule.why}</Small>
              </View>
              <View className="gap-1 md:w-95">
                <Body className={ours === undefined ? "" : "font-medium"}>
                  {ours === undefined
                    ? `${valueText(rule, theirs, settings)}, as the shop has it`
                    : `${valueText(rule, ours, settings)} for this job; the shop has ${valueText(rule, theirs, settings)}`}
                </Body>
                <Acts
                  job={job.code}
                  acts={[setAct(key, rule, ours ?? theirs), ...(ours === undefined ? [] : [backAct(key, rule)])]}
                  label={rule.text}
                  about={key}
                />
              </View>
            </View>
          );
        })}
      </Tray>
    </ScrollView>
  );
}
