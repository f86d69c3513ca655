import fc from "fast-check";
import { crossingsOf, inOrderOfCables, inversions, type CableLanding } from "./cables";
import { ordersOf, scoreOf } from "./orders";
import type { Level, Member, OrderScore } from "./result";

const level = (n: number, net: string | null): Level => ({
  level: n,
  clamps: [],
  inside: [],
  outside: [],
  undecided: null,
  net,
});
const member = (tag: string, position: number, nets: (string | null)[]): Member => ({
  kind: "member",
  tag,
  position,
  part: "T",
  widthMm: 5,
  levels: nets.map((net, i) => level(i + 1, net)),
  print: tag,
});

interface Case {
  members: Member[];
  landings: CableLanding[];
  groups: string[][];
}

/** Strips of up to `most` members with a few nets on two levels, cables whose cores land anywhere, and a group. */
const cases = (most: number): fc.Arbitrary<Case> =>
  fc
    .record({
      nets: fc.array(fc.tuple(fc.constantFrom(null, "a", "b", "c"), fc.constantFrom(null, "a", "d")), {
        minLength: 1,
        maxLength: most,
      }),
      cables: fc.array(fc.array(fc.nat(99), { minLength: 1, maxLength: 6 }), { maxLength: 4 }),
      group: fc.option(fc.tuple(fc.nat(99), fc.integer({ min: 2, max: 3 }))),
      numbers: fc.shuffledSubarray([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], { minLength: 12 }),
    })
    .map(({ nets, cables, group, numbers }) => {
      const members = nets.map((n, i) => member(i % 4 === 3 ? `-X.K${i}` : `-X.${numbers[i % 12]!}`, i + 1, [...n]));
      const landings = cables.map((cores, c) => ({
        tag: `-W${c}`,
        at: cores.map((k) => {
          const m = members[k % members.length]!;
          return { device: m.tag, position: m.position };
        }),
      }));
      const from = group ? group[0] % members.length : 0;
      const tags = group ? members.slice(from, from + group[1]).map((m) => m.tag) : [];
      return { members, landings, groups: tags.length > 1 ? [tags] : [] };
    });

function* permutations<T>(list: readonly T[]): Generator<T[]> {
  if (list.length < 2) {
    yield [...list];
    return;
  }
  for (let i = 0; i < list.length; i++)
    for (const rest of permutations([...list.slice(0, i), ...list.slice(i + 1)])) yield [list[i]!, ...rest];
}

const before = (a: OrderScore, b: OrderScore): boolean =>
  a.crossings < b.crossings || (a.crossings === b.crossings && a.pieces < b.pieces);

const numbered = (tags: readonly string[]): number[] =>
  tags.flatMap((t) => (/\.\d+$/.test(t) ? [Number(t.split(".")[1])] : []));
const ascends = (tags: readonly string[]): boolean => numbered(tags).every((n, i, all) => i === 0 || all[i - 1]! < n);

describe("orders of a strip", () => {
  test("as good as the best of all orders, groups kept", () => {
    fc.assert(
      fc.property(cases(7), ({ members, landings, groups }) => {
        const { any } = ordersOf(members, groups, landings);
        const held = (order: readonly Member[]): boolean =>
          groups.every((g) => {
            const at = g.map((t) => order.findIndex((m) => m.tag === t));
            return at.every((p, i) => i === 0 || p === at[i - 1]! + 1);
          });
        let best: OrderScore | null = null;
        for (const order of permutations(members)) {
          if (!held(order)) continue;
          const score = scoreOf(order, landings);
          if (!best || before(score, best)) best = score;
        }
        expect(any.proved).toBe(true);
        expect(any.then).toEqual(best);
        expect(any.least).toEqual(best);
        const proposed = any.members.map((t) => members.find((m) => m.tag === t)!);
        expect(held(proposed)).toBe(true);
        expect(scoreOf(proposed, landings)).toEqual(any.then);
        expect(scoreOf(members, landings)).toEqual(any.now);
      }),
      { seed: 8, numRuns: 60 },
    );
  });

  test("with numbers ascending as good as the best of those orders", () => {
    fc.assert(
      fc.property(cases(6), ({ members, landings }) => {
        const { ascending } = ordersOf(members, [], landings);
        let best: OrderScore | null = null;
        for (const order of permutations(members)) {
          if (!ascends(order.map((m) => m.tag))) continue;
          const score = scoreOf(order, landings);
          if (!best || before(score, best)) best = score;
        }
        expect(ascends(ascending.members)).toBe(true);
        expect(ascending.then).toEqual(best);
      }),
      { seed: 9, numRuns: 60 },
    );
  });

  test("a large strip: no worse than now, never below the bound, the same members, nothing better one move away", () => {
    fc.assert(
      fc.property(cases(24), ({ members, landings, groups }) => {
        const { any, ascending } = ordersOf(members, groups, landings);
        for (const order of [any, ascending]) {
          expect([...order.members].sort()).toEqual(members.map((m) => m.tag).sort());
          expect(order.least.crossings).toBeLessThanOrEqual(order.then.crossings);
          expect(order.least.pieces).toBeLessThanOrEqual(order.then.pieces);
          expect(
            scoreOf(
              order.members.map((t) => members.find((m) => m.tag === t)!),
              landings,
            ),
          ).toEqual(order.then);
        }
        expect(before(any.now, any.then)).toBe(false);
        if (groups.length === 0) expect(ascends(ascending.members)).toBe(true);
      }),
      { seed: 10, numRuns: 100 },
    );
  });

  test("finds an order without any crossing where there is one, however long", () => {
    const n = 60;
    const members = Array.from({ length: n }, (_, i) => member(`-X.${i + 1}`, i + 1, [null]));
    // One cable whose cores land on every seventh member, round and round.
    const at = Array.from({ length: n }, (_, k) => ((k * 7) % n) + 1).map((position) => ({
      device: `-X.${position}`,
      position,
    }));
    const { any } = ordersOf(members, [], [{ tag: "-W1", at }]);
    expect(any.now.crossings).toBeGreaterThan(500);
    expect(any.then).toEqual({ crossings: 0, pieces: 0 });
    expect(any.proved).toBe(false);
    expect(any.least.crossings).toBe(0);
  });

  test("in a good order nothing is moved", () => {
    const members = ["a", "a", "b", "b", null].map((net, i) => member(`-X.${i + 1}`, i + 1, [net]));
    const at = members.map((m) => ({ device: m.tag, position: m.position }));
    const { any } = ordersOf(members, [], [{ tag: "-W1", at }]);
    expect(any.members).toEqual(members.map((m) => m.tag));
    expect(any.then).toEqual({ crossings: 0, pieces: 2 });
  });
});

describe("crossings", () => {
  test("counted as pairs, against counting them one by one", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(20), { maxLength: 40 }), (list) => {
        let pairs = 0;
        for (let i = 0; i < list.length; i++)
          for (let j = i + 1; j < list.length; j++) if (list[i]! > list[j]!) pairs++;
        expect(inversions(list)).toBe(pairs);
      }),
      { seed: 4105 },
    );
  });

  test("cables side by side do not cross; cores that change places do, and cables that reach into each other", () => {
    const at = (...positions: number[]) => positions.map((position) => ({ device: String(position), position }));
    expect(
      crossingsOf([
        { tag: "B", at: at(1, 2) },
        { tag: "A", at: at(3, 4) },
      ]),
    ).toBe(0);
    expect(crossingsOf([{ tag: "A", at: at(2, 1) }])).toBe(1);
    // 1, 3 | 2, 4: the second core of one crosses the first of the other.
    expect(
      crossingsOf([
        { tag: "A", at: at(1, 3) },
        { tag: "B", at: at(2, 4) },
      ]),
    ).toBe(1);
    expect(crossingsOf([])).toBe(0);
  });
});

test("cables lie by the middle of where they land, those of one middle by their tags", () => {
  const at = (...positions: number[]) => positions.map((position) => ({ position }));
  const order = inOrderOfCables([
    { tag: "-W3", at: at(1, 5) },
    { tag: "-W4", at: at(2) },
    { tag: "-W5", at: at(3) },
    { tag: "-W2", at: at(8, 2) },
  ]);
  // Middles 3, 2, 3, 5: -W4; then -W3 before -W5; then -W2.
  expect(order.map((o) => o.position)).toEqual([2, 1, 5, 3, 8, 2]);
});
