import type { ShopReply, ShopVersion } from "@gray-bench/contract/shop";
import { canonicalJson } from "@gray-bench/core/design/canonical";
import type { Design } from "@gray-bench/core/design/model";
import type { AnyRule } from "@gray-bench/core/shop/rule-kinds";
import type { Shop } from "@gray-bench/core/shop/shop";
import { findRules } from "@gray-bench/core/shop/find-rules";
import { changedPlaces, ownText, ruleValue, shopChanges, withRule } from "@gray-bench/core/shop/shop-changes";
import FileUp from "lucide-react-native/icons/file-up";
import { memo, useCallback, useDeferredValue, useEffect, useMemo, useState, type ReactNode } from "react";
import { ScrollView, View } from "react-native";
import { useDesign, useJobs, useStages } from "../queries/useJobs";
import { ApiError } from "../kit/api";
import { Button, LinkLine } from "../kit/Button";
import { chooses } from "../kit/choice";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatMoment } from "../kit/format";
import { shopHref } from "../kit/links";
import { Select } from "../kit/Select";
import type { Bench } from "../kit/useBench";
import { useSettings, useTokens } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useWide } from "../kit/useWide";
import { EffectTable } from "./EffectTable";
import { NumberRow } from "./NumberRow";
import { changedText, lastChanges, OwnRules } from "./OwnRules";
import { Sections, sectionTitle, VERSIONS, type Section } from "./Sections";
import { TextRow } from "./TextRow";
import { RuleTable } from "./RuleTable";
import { TakeOver } from "./TakeOver";
import { useSaveShop, useShopEffect, useVersions } from "../queries/useShop";
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
export function ShopView({
  current,
  bench,
  section,
  rule,
}: {
  current: ShopReply;
  bench: Bench;
  /** The part that is shown; none: what the shop has of its own, and the way to all. */
  section?: string | undefined;
  /** Place of the rule that is wanted in it. */
  rule?: string | undefined;
}) {
  const wide = useWide();
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
  /** Nothing of what was typed for a rule is wrong any more. */
  const clear = useCallback((place: string) => {
    setWrongs((all) =>
      Object.fromEntries(Object.entries(all).filter(([key]) => key !== place && !key.startsWith(`${place} `))),
    );
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
  const versions = useVersions().data;
  const last = useMemo(() => lastChanges(versions ?? []), [versions]);
  const [typed, setTyped] = useState("");
  const asked = useDeferredValue(typed.trim());
  const found = useMemo(
    () => (asked === "" ? null : new Set(findRules(RULES, (r) => sectionTitle(r.stage), asked).map((r) => r.place))),
    [asked, RULES],
  );
  const sections = useMemo(() => sectionsOf(RULES, draft.base, shop), [RULES, draft.base, shop]);
  const stages = sections.map(({ id }) => id).filter((id) => id !== VERSIONS);
  const wanted = section ?? RULES.find((r) => r.place === rule)?.stage;
  const at = sections.some(({ id }) => id === wanted) ? wanted : undefined;
  const isShown = (place: string, stage: string): boolean => (found ? found.has(place) : stage === at);
  // What was seen stays there, out of sight: what is half typed in it is not lost.
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const unseen = RULES.filter((r) => isShown(r.place, r.stage) && !seen.has(r.place)).map((r) => r.place);
  if (unseen.length > 0) setSeen(new Set([...seen, ...unseen]));
  useRuleInSight(rule, draft.turn);
  // What rows take is counted when nobody types.
  const counted = useDeferredValue(shop.rules);
  const overview = !found && at === undefined;
  const nav = <Sections sections={sections} now={found ? null : at} whole={wide} chosen={() => setTyped("")} />;
  return (
    <View className="min-h-0 flex-1">
      <View className="min-h-0 flex-1 md:flex-row">
        {wide ? <ScrollView className="w-68 grow-0 border-r border-line">{nav}</ScrollView> : null}
        <ScrollView
          className="min-h-0 flex-1"
          contentContainerClassName="w-full max-w-280 gap-3 p-3 md:p-6"
          testID="shop"
        >
          {overview || wide ? null : (
            <LinkLine
              href={shopHref()}
              onPress={chooses({ section: undefined, rule: undefined })}
              label="All sections"
              testID="all-sections"
            />
          )}
          <Title>{found ? "Rules found" : at === undefined ? "The shop" : sectionTitle(at)}</Title>
          <View className="gap-3 md:flex-row">
            <View className="md:flex-1">
              <Field
                label="Find a rule"
                value={typed}
                change={setTyped}
                hint="slack  or  ferrule"
                testID="find-rule"
                keys={{ Escape: () => setTyped("") }}
              />
            </View>
            {jobs.length > 0 && RULES.some((r) => isShown(r.place, r.stage) && showsWires(r.place, bench)) ? (
              <View className="w-60">
                <Select
                  label="Show rows and patterns on wires of"
                  value={job}
                  choices={jobs.map((j) => j.code)}
                  choose={(v) => setOf(v)}
                  testID="shop-job"
                />
              </View>
            ) : null}
          </View>
          {found ? (
            <Small role="status" testID="rules-found">
              {found.size === 0
                ? `No rule speaks of "${asked}".`
                : `${found.size} of ${RULES.length} rules speak of "${asked}".`}
            </Small>
          ) : null}
          <Small testID="shop-version">
            {shop.name} · version {current.number}, {current.who}, {formatMoment(current.when)}
            {current.why ? `: ${current.why}` : ""}
          </Small>
          {found ? null : <TakeOver jobs={older.jobs ?? []} total={older.total} version={current.number} />}
          {overview ? (
            <View className="flex-row flex-wrap gap-2">
              <FileIn read={readFile} />
              <FileLink href="/api/shop/file" label="Download" testID="shop-file" />
            </View>
          ) : null}
          {faults.length > 0 ? (
            <View role="alert" testID="shop-faults" className="gap-1 border-l-4 border-brick p-3">
              <Head>The file was refused. Nothing was changed.</Head>
              {faults.slice(0, 20).map((f) => (
                <Mono key={f}>{f}</Mono>
              ))}
            </View>
          ) : null}
          {overview && !wide ? <Tray>{nav}</Tray> : null}
          {overview ? <OwnRules shop={shop} rules={RULES} last={last} /> : null}
          {stages.map((stage) => {
            const rules = RULES.filter((r) => r.stage === stage && seen.has(r.place));
            return (
              <Shown key={`${stage} ${draft.turn}`} when={rules.some((r) => isShown(r.place, stage))}>
                <Tray className="gap-2 px-3 pb-1 pt-3">
                  {found ? <Head>{sectionTitle(stage)}</Head> : null}
                  {rules.map((r) => (
                    <Shown key={r.place} when={isShown(r.place, stage)}>
                      <RuleRow
                        place={r.place}
                        rule={r.rule}
                        value={ruleValue(shop, r.place)}
                        was={ruleValue(draft.base, r.place)}
                        put={put}
                        wrong={wrong}
                        clear={clear}
                        // Who shows no use of its rows has no need to hear of every other change.
                        use={RULE_USE[r.place]}
                        design={RULE_USE[r.place] ? design : undefined}
                        rules={RULE_USE[r.place] ? counted : undefined}
                        examples={examples[r.place]}
                        last={last.get(r.place)}
                        marked={r.place === rule}
                      />
                    </Shown>
                  ))}
                </Tray>
              </Shown>
            );
          })}
          {!found && at === VERSIONS ? <Versions current={current} putBack={replace} /> : null}
        </ScrollView>
      </View>
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

/** Whether rows or patterns of a rule are shown on wires of a job. */
const showsWires = (place: string, { EXAMPLES, RULE_USE }: Bench): boolean =>
  EXAMPLES[place] !== undefined || RULE_USE[place] !== undefined;

/** The sections in their order, with what is the shop's own and what is changed now. */
function sectionsOf(rules: Bench["RULES"], base: Shop, shop: Shop): Section[] {
  const changed = new Set(changedPlaces(base, shop, rules));
  const stages = [...new Set(rules.map((r) => r.stage))].map((id): Section => {
    const own = rules.filter((r) => r.stage === id);
    return {
      id,
      rules: own.length,
      own: own.filter((r) => ownText(r.rule, ruleValue(shop, r.place)) !== null).length,
      changed: own.filter((r) => changed.has(r.place)).length,
    };
  });
  return [...stages, { id: VERSIONS, rules: 0, own: 0, changed: 0 }];
}

/** Out of sight it is there all the same, with what was typed in it. */
const Shown = ({ when, children }: { when: boolean; children: ReactNode }) => (
  <View style={when ? undefined : { display: "none" }}>{children}</View>
);

/** The rule that the address names comes into sight, and stays there while what stands above it comes, until somebody moves. */
function useRuleInSight(rule: string | undefined, turn: number): void {
  useEffect(() => {
    const row = rule === undefined ? null : document.getElementById(`rule-${rule}`);
    const content = row?.closest<HTMLElement>("[data-testid=shop]")?.firstElementChild;
    if (!row || !content) return;
    const grows = new ResizeObserver(() => row.scrollIntoView({ block: "start" }));
    const moved = (): void => grows.disconnect();
    const moves = ["wheel", "pointerdown", "keydown"] as const;
    for (const m of moves) window.addEventListener(m, moved, { capture: true, once: true });
    grows.observe(content);
    return () => {
      moved();
      for (const m of moves) window.removeEventListener(m, moved, true);
    };
  }, [rule, turn]);
}

interface RuleRowProps {
  place: string;
  rule: AnyRule;
  value: unknown;
  was: unknown;
  put(place: string, value: unknown): void;
  wrong(place: string, reason: string | null): void;
  clear(place: string): void;
  use: Bench["RULE_USE"][string] | undefined;
  design: Design | undefined;
  rules: Shop["rules"] | undefined;
  examples: ((text: string) => string[]) | undefined;
  /** Version that changed it last. */
  last: ShopVersion | undefined;
  marked: boolean;
}

/** One rule, as its kind is shown. It is drawn anew only where it changed. */
const RuleRow = memo(function RuleRow({ last, marked, clear, ...shown }: RuleRowProps) {
  const { place, rule, value, was, put } = shown;
  const own = ownText(rule, value) !== null;
  // What was changed just now is undone; what stood there before is reset.
  const resets = own && ownText(rule, was) !== null;
  // Fields that hold what was typed are made anew.
  const [reset, setReset] = useState(0);
  return (
    <View id={`rule-${place}`} className={marked ? "border-l-4 border-verdigris pl-2" : ""}>
      <RuleFields key={reset} {...shown} />
      {resets || last || (own && rule.as !== "number") ? (
        <View className="flex-row flex-wrap items-center gap-3 pb-3 md:w-80 md:self-end" testID={`rule-own-${place}`}>
          {resets ? (
            <Button
              label={`Reset ${rule.text}`}
              text="Reset"
              onPress={() => {
                clear(place);
                put(place, rule.default);
                setReset(reset + 1);
              }}
              testID={`rule-reset-${place}`}
            />
          ) : null}
          <Small className="min-w-0 flex-1">
            {[
              ...(rule.as === "number" ? [] : [own ? "not as it ships" : "as it ships"]),
              ...(last ? [changedText(last)] : []),
            ].join(" · ")}
          </Small>
        </View>
      ) : null}
    </View>
  );
});

function RuleFields({
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
}: Omit<RuleRowProps, "last" | "marked" | "clear">) {
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
}

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
      <View className="min-h-touch flex-row items-center gap-2 rounded-edge border border-line bg-paper px-3">
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
      <ScrollView contentContainerClassName="mx-auto w-full max-w-280 gap-2 p-3 md:px-6">
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
            <View className="w-32 md:w-50">
              <Field label="Your name" value={name} change={setName} testID="shop-who" />
            </View>
          ) : null}
          <View className="min-w-32 flex-1">
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
