import type { ShopReply } from "@gray-bench/contract/shop";
import { canonicalJson } from "@gray-bench/core/design/canonical";
import type { Design } from "@gray-bench/core/design/model";
import type { AnyRule } from "@gray-bench/core/shop/rule-kinds";
import type { Shop } from "@gray-bench/core/shop/shop";
import { ruleValue, shopChanges, withRule } from "@gray-bench/core/shop/shop-changes";
import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import FileUp from "lucide-react-native/icons/file-up";
import { memo, useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { useDesign, useJobs, useStages } from "../queries/useJobs";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatMoment } from "../kit/format";
import { Select } from "../kit/Select";
import type { Bench } from "../kit/useBench";
import { useSettings, useTokens } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { EffectTable } from "./EffectTable";
import { NumberRow } from "./NumberRow";
import { TextRow } from "./TextRow";
import { RuleTable } from "./RuleTable";
import { TakeOver } from "./TakeOver";
import { useSaveShop, useShopEffect } from "../queries/useShop";
import { Versions } from "./Versions";

interface Drafted {
  /** Hash of the version it was begun on, and that version. */
  on: string;
  base: Shop;
  shop: Shop;
  /** Counts how often all fields got other values at once. */
  turn: number;
}

/**
 * The rules of the shop. What is changed here is a draft until it is made a version; before that it can be seen
 * what it would do to every job.
 */
export function ShopView({ current, bench }: { current: ShopReply; bench: Bench }) {
  const { EXAMPLES, RULES, RULE_USE, readShop } = bench;
  const [draft, setDraft] = useState<Drafted>({ on: current.hash, base: current.shop, shop: current.shop, turn: 0 });
  const [wrongs, setWrongs] = useState<Readonly<Record<string, string>>>({});
  const [faults, setFaults] = useState<string[]>([]);
  const [of, setOf] = useState("");
  const { shop } = draft;
  const changes = useMemo(() => shopChanges(draft.base, shop, RULES), [draft.base, shop, RULES]);
  useEffect(() => {
    // Another version counts now: the draft that became it, and one without changes, go with it.
    setDraft((d) => {
      if (d.on === current.hash) return d;
      const mine = canonicalJson(d.shop) === canonicalJson(current.shop);
      if (!mine && shopChanges(d.base, d.shop, RULES).length > 0) return d;
      return { on: current.hash, base: current.shop, shop: current.shop, turn: mine ? d.turn : d.turn + 1 };
    });
  }, [current, RULES]);
  const jobs = useJobs().jobs ?? [];
  const older = useJobs("", true);
  const job = of || jobs[0]?.code || "";
  const design = useDesign(job, job !== "").data;
  const examples = useExamples(job, EXAMPLES);
  const put = useCallback(
    (place: string, value: unknown) => setDraft((d) => ({ ...d, shop: withRule(d.shop, place, value) })),
    [],
  );
  const wrong = useCallback((place: string, reason: string | null) => {
    setWrongs(({ [place]: _, ...rest }) => (reason === null ? rest : { ...rest, [place]: reason }));
  }, []);
  /** Another shop in all fields at once. */
  const replace = (next: Shop): void => {
    setWrongs({});
    setFaults([]);
    setDraft((d) => ({ on: current.hash, base: current.shop, shop: next, turn: d.turn + 1 }));
  };
  /** What is changed here, put on top of what somebody else made of the shop meanwhile. */
  const rebase = (): void =>
    replace(
      RULES.reduce((next, { place }) => {
        const [was, is] = [ruleValue(draft.base, place), ruleValue(shop, place)];
        return canonicalJson(was) === canonicalJson(is) ? next : withRule(next, place, is);
      }, current.shop),
    );
  const readFile = async (file: File): Promise<void> => {
    const read = readShop(await file.text());
    if (read.ok) replace(read.value);
    else setFaults(read.faults.map((f) => `${f.path}: found ${f.found}, expected ${f.expected}`));
  };
  const stages = [...new Set(RULES.map((r) => r.stage))];
  // What rows take is counted when nobody types.
  const counted = useDeferredValue(shop.rules);
  return (
    <View className="min-h-0 flex-1">
      <ScrollView contentContainerClassName="mx-auto w-full max-w-[1120px] gap-3 p-3 md:p-6">
        <Title>The shop</Title>
        <Small testID="shop-version">
          {shop.name} · version {current.number}, {current.who}, {formatMoment(current.when)}
          {current.why ? `: ${current.why}` : ""}
        </Small>
        <TakeOver jobs={older.jobs ?? []} total={older.total} version={current.number} />
        <View className="flex-row flex-wrap gap-2">
          <FileIn read={readFile} />
          <FileLink href="/api/shop/file" label="Download" testID="shop-file" />
        </View>
        {faults.length > 0 ? (
          <View role="alert" testID="shop-faults" className="gap-1 border-l-4 border-brick p-3">
            <Head>The file was refused. Nothing was changed.</Head>
            {faults.slice(0, 20).map((f) => (
              <Mono key={f}>{f}</Mono>
            ))}
          </View>
        ) : null}
        {jobs.length > 0 ? (
          <View className="w-[240px]">
            <Select
              label="Show rows and patterns on wires of"
              value={job}
              choices={jobs.map((j) => j.code)}
              choose={(v) => setOf(v)}
              testID="shop-job"
            />
          </View>
        ) : null}
        {stages.map((stage) => (
          <Tray key={`${stage} ${draft.turn}`} className="gap-2 px-3 pb-1 pt-3">
            <Head>{STAGE_TITLES[stage as StageName]}</Head>
            {RULES.filter((r) => r.stage === stage).map(({ place, rule }) => (
              <RuleRow
                key={place}
                place={place}
                rule={rule}
                value={ruleValue(shop, place)}
                was={ruleValue(draft.base, place)}
                put={put}
                wrong={wrong}
                // Who shows no use of its rows has no need to hear of every other change.
                use={RULE_USE[place]}
                design={RULE_USE[place] ? design : undefined}
                rules={RULE_USE[place] ? counted : undefined}
                examples={examples[place]}
              />
            ))}
          </Tray>
        ))}
        <Versions current={current} putBack={replace} />
      </ScrollView>
      {changes.length > 0 || Object.keys(wrongs).length > 0 ? (
        <Draft
          on={draft.on}
          shop={shop}
          changes={changes}
          wrongs={Object.values(wrongs)}
          next={current.number + 1}
          discard={() => replace(current.shop)}
          rebase={rebase}
          check={bench.checkShop}
        />
      ) : null}
    </View>
  );
}

interface RuleRowProps {
  place: string;
  rule: AnyRule;
  value: unknown;
  was: unknown;
  put(place: string, value: unknown): void;
  wrong(place: string, reason: string | null): void;
  use: Bench["RULE_USE"][string] | undefined;
  design: Design | undefined;
  rules: Shop["rules"] | undefined;
  examples: ((text: string) => string[]) | undefined;
}

/** One rule, as its kind is shown. It is drawn anew only where it changed. */
const RuleRow = memo(function RuleRow({
  place,
  rule,
  value,
  was,
  put,
  wrong,
  use,
  design,
  rules,
  examples,
}: RuleRowProps) {
  const takes = useMemo(() => (use && design && rules ? use(design, rules) : null), [use, design, rules]);
  const change = (next: unknown): void => put(place, next);
  if (rule.as === "number")
    return (
      <NumberRow place={place} rule={rule} value={value as number} was={was as number} change={change} wrong={wrong} />
    );
  if (rule.as === "text")
    return (
      <TextRow
        place={place}
        rule={rule}
        value={value as string}
        was={was as string}
        change={change}
        wrong={wrong}
        examples={examples}
      />
    );
  return (
    <RuleTable
      place={place}
      rule={rule}
      rows={rule.rows(value)}
      change={(rows) => change(rule.value(rows))}
      wrong={wrong}
      takes={takes}
    />
  );
});

/** What patterns come to on a job, as soon as the stages they are of are there. */
function useExamples(job: string, all: Bench["EXAMPLES"]): Readonly<Record<string, (text: string) => string[]>> {
  const stages = [...new Set(Object.values(all).map((e) => e.stage))];
  const results = useStages(job, stages);
  return Object.fromEntries(
    Object.entries(all).flatMap(([place, { stage, of }]) => {
      const result = results[stage];
      return result === undefined ? [] : [[place, (text: string) => of(text, result)] as const];
    }),
  );
}

function FileIn({ read }: { read(file: File): Promise<void> }) {
  const t = useTokens();
  return (
    <label style={{ cursor: "pointer" }}>
      <View className="min-h-[44px] flex-row items-center gap-2 rounded-[3px] border border-line bg-paper px-3">
        <FileUp size={18} color={t.graphite} />
        <Body>Read a shop file</Body>
      </View>
      <input
        type="file"
        accept=".json,application/json"
        data-testid="shop-file-in"
        aria-label="Read a shop file"
        style={{ position: "absolute", width: 1, height: 1, opacity: 0 }}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) void read(file);
        }}
      />
    </label>
  );
}

interface DraftProps {
  on: string;
  shop: Shop;
  changes: readonly string[];
  wrongs: readonly string[];
  next: number;
  discard(): void;
  rebase(): void;
  check: Bench["checkShop"];
}

const MOST_CHANGES = 4;

/** What is changed and not yet a version: what it does to the jobs, and the way to take it or to leave it. */
function Draft({ on, shop, changes, wrongs, next, discard, rebase, check }: DraftProps) {
  const settings = useSettings();
  const [why, setWhy] = useState("");
  const [name, setName] = useState(settings.name);
  const [tried, setTried] = useState(false);
  const save = useSaveShop();
  const effect = useShopEffect();
  const checked = check(JSON.parse(JSON.stringify(shop)));
  const whole = wrongs.length === 0 && checked.ok;
  const text = useMemo(() => canonicalJson(shop), [shop]);
  const seen = effect.data && effect.variables && canonicalJson(effect.variables) === text ? effect.data : null;
  const take = (): void => {
    setTried(true);
    if (!whole || name.trim() === "") return;
    settings.change({ name: name.trim() });
    save.mutate({ on, shop, who: name.trim(), ...(why.trim() ? { why: why.trim() } : {}) });
  };
  return (
    <View
      testID="draft"
      role="region"
      aria-label="Changes not yet taken"
      className="max-h-[60%] border-t border-verdigris bg-paper"
    >
      <ScrollView contentContainerClassName="mx-auto w-full max-w-[1120px] gap-2 p-3 md:px-6">
        <View role="status" className="gap-1">
          {changes.slice(0, MOST_CHANGES).map((c) => (
            <Body key={c}>{c}</Body>
          ))}
          {changes.length > MOST_CHANGES ? <Small>and {changes.length - MOST_CHANGES} more</Small> : null}
          {wrongs.map((w) => (
            <Small key={w} className="font-medium text-brick">
              {w}
            </Small>
          ))}
        </View>
        {seen ? <EffectTable {...seen} /> : null}
        {effect.error ? <Failed error={effect.error} /> : null}
        {save.error ? (
          <View className="gap-1">
            <Failed error={save.error} />
            {save.error instanceof ApiError && save.error.body.code === "shop.stale" ? (
              <>
                {save.error.body.changed?.map((c) => (
                  <Small key={c}>{c}</Small>
                ))}
                <View className="flex-row">
                  <Button
                    label="Take my changes on top of it"
                    onPress={() => (rebase(), save.reset())}
                    testID="rebase"
                  />
                </View>
              </>
            ) : null}
          </View>
        ) : null}
        <View className="flex-row flex-wrap items-end gap-2">
          {settings.name === "" || tried ? (
            <View className="w-[130px] md:w-[200px]">
              <Field label="Your name" value={name} change={setName} testID="shop-who" />
            </View>
          ) : null}
          <View className="min-w-[130px] flex-1">
            <Field label="Why (not needed)" value={why} change={setWhy} testID="shop-why" />
          </View>
        </View>
        {tried && name.trim() === "" ? <Small className="text-brick">A name is needed.</Small> : null}
        <View className="flex-row flex-wrap gap-2">
          <Button
            label={effect.isPending ? "Computing …" : "See what it does"}
            disabled={!whole || effect.isPending}
            onPress={() => effect.mutate(shop)}
            testID="see-effect"
          />
          <Button
            kind="solid"
            label={`Make it version ${next}`}
            disabled={!whole || save.isPending}
            onPress={take}
            testID="save-shop"
          />
          <Button label="Discard the changes" onPress={discard} testID="discard" />
        </View>
      </ScrollView>
    </View>
  );
}
