import { crossingsOf, inOrderOfCables, type CableLanding } from "./cables";
import type { Member, OrderKind, OrderProposal, OrderScore } from "./result";

/**
 * Another order of the members of a strip: fewest crossings of cores, of those the fewest pieces to join each net, of
 * those nearest to the order that is there. Cables keep the order in which they come to the strip now. Members of a group
 * stay together as one block. Up to so many blocks all orders are compared (by the sets of blocks already placed); more
 * are improved by moving one block at a time until nothing gets better, and told with the bound.
 */
const ALL_ORDERS = 12;

/** Comparisons that the improving of a large strip may take. */
const MOST_STEPS = 4_000_000;

/** Strips of more blocks are left as they are: a strip that is built has a tenth. */
const MOST_BLOCKS = 800;

/** Members that stay together, by their place now. */
type Block = number[];

interface Task {
  members: readonly Member[];
  blocks: Block[];
  /** Crossings when block i stands somewhere before block j: `crosses[i * n + j]`. */
  crosses: Float64Array;
  /** Nets that go on from the last member of block i to the first of block j: `joins[i * n + j]`. */
  joins: Float64Array;
  /** Blocks that must stand before block j: bits for up to 31 blocks; null where numbers need not ascend. */
  before: readonly number[] | null;
  /** Number of the block by which numbers ascend; null for those that have none. */
  number: readonly (number | null)[];
}

export function ordersOf(
  members: readonly Member[],
  groups: readonly (readonly string[])[],
  landings: readonly CableLanding[],
): Record<OrderKind, OrderProposal> {
  if (members.length > MOST_BLOCKS && blocksOf(members, groups).length > MOST_BLOCKS) {
    const now = scoreOf(members, landings);
    const pieces = new Set(netsOf(members).flatMap((keys) => [...keys])).size;
    const as = { members: members.map((m) => m.tag), now, then: now, least: { crossings: 0, pieces }, proved: false };
    return { any: as, ascending: as };
  }
  const make = (kind: OrderKind): OrderProposal => propose(taskOf(members, groups, landings, kind), landings);
  return { any: make("any"), ascending: make("ascending") };
}

/** How well an order of members does: counted afresh, not by the sums that led to it. O(cores log cores + members) */
export function scoreOf(order: readonly Member[], landings: readonly CableLanding[]): OrderScore {
  const place = new Map(order.map((m, i) => [m.tag, i + 1]));
  // Cables in the order in which they come now; the places are those of the order that is looked at.
  const cores = inOrderOfCables(landings).map((c) => ({ ...c, position: place.get(c.device)! }));
  const crossings = crossingsOf([{ tag: "", at: cores }]);
  let runs = 0;
  const nets = netsOf(order);
  for (let i = 0; i < order.length; i++) for (const key of nets[i]!) if (i === 0 || !nets[i - 1]!.has(key)) runs++;
  return { crossings, pieces: runs };
}

/** Level and net of what is to be joined: nets that come to more than one member. */
function netsOf(members: readonly Member[]): Set<string>[] {
  const all = members.map((m) => new Set(m.levels.flatMap((l) => (l.net === null ? [] : [`${l.level} ${l.net}`]))));
  const count = new Map<string, number>();
  for (const keys of all) for (const key of keys) count.set(key, (count.get(key) ?? 0) + 1);
  return all.map((keys) => new Set([...keys].filter((key) => count.get(key)! > 1)));
}

/** The number at the end of a tag, behind the stem it counts; null where it ends otherwise. */
const numberIn = (tag: string): number | null => {
  const digits = /[.:](\d{1,9})$/.exec(tag)?.[1];
  return digits === undefined ? null : Number(digits);
};

function taskOf(
  members: readonly Member[],
  groups: readonly (readonly string[])[],
  landings: readonly CableLanding[],
  kind: OrderKind,
): Task {
  const blocks = blocksOf(members, groups);
  const n = blocks.length;
  const blockOf = new Map<string, number>();
  blocks.forEach((b, i) => b.forEach((m) => blockOf.set(members[m]!.tag, i)));
  const crosses = new Float64Array(n * n);
  const cores = inOrderOfCables(landings).map((c) => blockOf.get(c.device)!);
  // A core of block j that comes before one of block i crosses it when i stands first.
  const seen = new Float64Array(n);
  for (const block of cores) {
    for (let j = 0; j < n; j++) if (seen[j]! > 0 && j !== block) crosses[block * n + j]! += seen[j]!;
    seen[block]!++;
  }
  const nets = netsOf(members);
  const joins = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    const last = nets[blocks[i]![blocks[i]!.length - 1]!]!;
    if (last.size === 0) continue;
    for (let j = 0; j < n; j++) {
      if (i === j) continue;
      let shared = 0;
      for (const key of nets[blocks[j]![0]!]!) if (last.has(key)) shared++;
      joins[i * n + j] = shared;
    }
  }
  const number = blocks.map((b) => {
    const numbers = b.flatMap((m) => numberIn(members[m]!.tag) ?? []);
    return kind === "ascending" && numbers.length > 0 ? Math.min(...numbers) : null;
  });
  const before =
    n > ALL_ORDERS
      ? null
      : number.map((own) =>
          number.reduce<number>(
            (bits, other, i) => (own !== null && other !== null && other < own ? bits | (1 << i) : bits),
            0,
          ),
        );
  return { members, blocks, crosses, joins, before, number };
}

/** Members by block: a group is one, every other member one of its own. Groups that overlap are cut where they do. */
function blocksOf(members: readonly Member[], groups: readonly (readonly string[])[]): Block[] {
  const groupOf = new Map<string, readonly string[]>();
  for (const group of groups) for (const tag of group) if (!groupOf.has(tag)) groupOf.set(tag, group);
  const blocks: Block[] = [];
  const made = new Map<readonly string[], Block>();
  members.forEach(({ tag }, i) => {
    const group = groupOf.get(tag);
    const block = group && made.get(group);
    if (block) block.push(i);
    else {
      const fresh = [i];
      blocks.push(fresh);
      if (group) made.set(group, fresh);
    }
  });
  return blocks;
}

function propose(task: Task, landings: readonly CableLanding[]): OrderProposal {
  const { members, blocks } = task;
  const n = blocks.length;
  const proved = n <= ALL_ORDERS;
  const order = proved ? bestOfAll(task) : improved(task);
  const then = order.flatMap((b) => blocks[b]!.map((m) => members[m]!));
  const [was, is] = [scoreOf(members, landings), scoreOf(then, landings)];
  // Never a worse one: with numbers that must ascend there may be no better, but then it is asked for.
  const worse = is.crossings > was.crossings || (is.crossings === was.crossings && is.pieces > was.pieces);
  const kept = worse && !mustChange(task);
  const best = kept ? was : is;
  return {
    members: (kept ? members : then).map((m) => m.tag),
    now: was,
    then: best,
    least: proved && !kept ? is : leastOf(task),
    proved,
  };
}

/** Whether numbers are to ascend and do not, or a group is to stand together and does not. */
function mustChange({ blocks, number }: Task): boolean {
  const numbers = number.filter((v) => v !== null);
  return (
    numbers.some((v, i) => i > 0 && v < numbers[i - 1]!) ||
    blocks.some((b) => b.some((m, i) => i > 0 && m !== b[i - 1]! + 1))
  );
}

/** Weights that make one crossing count more than all pieces, and one piece more than all moves. */
const weights = (n: number): { cross: number; join: number } => ({
  join: n * n + 1,
  cross: (n * n + 1) * (100 * n + 1),
});

/**
 * The best order of all: for each set of blocks placed and each one that stands last, the least cost. O(2^n · n²)
 */
function bestOfAll({ blocks, crosses, joins, before }: Task): number[] {
  const n = blocks.length;
  if (n === 0) return [];
  const { cross, join } = weights(n);
  const full = 1 << n;
  const cost = new Float64Array(full * n).fill(Infinity);
  const from = new Int8Array(full * n).fill(-1);
  for (let j = 0; j < n; j++) if (before![j] === 0) cost[(1 << j) * n + j] = j;
  // Crossings of block j when it comes behind all of a set.
  const behind = new Float64Array(full * n);
  for (let set = 1; set < full; set++) {
    const low = 31 - Math.clz32(set & -set);
    for (let j = 0; j < n; j++) behind[set * n + j] = behind[(set & (set - 1)) * n + j]! + crosses[low * n + j]!;
  }
  for (let set = 1; set < full; set++) {
    const size = popCount(set);
    for (let last = 0; last < n; last++) {
      const here = cost[set * n + last]!;
      if (here === Infinity) continue;
      for (let j = 0; j < n; j++) {
        if ((set & (1 << j)) !== 0 || (before![j]! & ~set) !== 0) continue;
        const next = set | (1 << j);
        const c = here + behind[set * n + j]! * cross - joins[last * n + j]! * join + Math.abs(size - j);
        if (c < cost[next * n + j]! - 1e-9) {
          cost[next * n + j] = c;
          from[next * n + j] = last;
        }
      }
    }
  }
  let last = 0;
  for (let j = 1; j < n; j++) if (cost[(full - 1) * n + j]! < cost[(full - 1) * n + last]!) last = j;
  const order: number[] = [];
  for (let set = full - 1, at = last; at >= 0;) {
    order.push(at);
    const previous = from[set * n + at]!;
    set &= ~(1 << at);
    at = previous;
  }
  return order.reverse();
}

const popCount = (bits: number): number => {
  let count = 0;
  for (let b = bits; b; b &= b - 1) count++;
  return count;
};

/** Moves one block at a time to where it does best, until none does better anywhere. O(passes · n²) */
function improved({ blocks, crosses, joins, number }: Task): number[] {
  const n = blocks.length;
  // One crossing counts more than all pieces.
  const cross = 100 * n + 1;
  let order = blocks.map((_, i) => i);
  if (number.some((v) => v !== null)) {
    // Numbered blocks keep their places among themselves, in order of number.
    const numbered = order.filter((i) => number[i] !== null).sort((a, b) => number[a]! - number[b]! || a - b);
    let next = 0;
    order = order.map((i) => (number[i] === null ? i : numbered[next++]!));
  }
  const joined = (a: number | undefined, b: number | undefined): number =>
    a === undefined || b === undefined ? 0 : joins[a * n + b]!;
  let steps = 0;
  for (let better = true; better && steps < MOST_STEPS;) {
    better = false;
    for (let block = 0; block < n; block++) {
      const at = order.indexOf(block);
      const [left, right] = [order[at - 1], order[at + 1]];
      const lost = joined(left, block) + joined(block, right) - joined(left, right);
      let best = -1e-9;
      let to = at;
      for (const by of [-1, 1]) {
        let change = 0;
        for (let q = at + by; q >= 0 && q < n; q += by) {
          const other = order[q]!;
          if (number[block] !== null && number[other] !== null) break;
          steps++;
          change +=
            by < 0
              ? crosses[block * n + other]! - crosses[other * n + block]!
              : crosses[other * n + block]! - crosses[block * n + other]!;
          const [a, b] = by < 0 ? [order[q - 1], other] : [other, order[q + 1]];
          const won = joined(a, block) + joined(block, b) - joined(a, b);
          const cost = change * cross + lost - won;
          if (cost < best) {
            best = cost;
            to = q;
          }
        }
      }
      if (to === at) continue;
      order.splice(at, 1);
      order.splice(to, 0, block);
      better = true;
    }
  }
  return order;
}

/** What no order can go below: of each pair of blocks the better way round, and each net joined by one piece. */
function leastOf({ members, blocks, crosses, number }: Task): OrderScore {
  const n = blocks.length;
  let crossings = 0;
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      const [a, b] = [crosses[i * n + j]!, crosses[j * n + i]!];
      const [x, y] = [number[i]!, number[j]!];
      crossings += x !== null && y !== null && x !== y ? (x < y ? a : b) : Math.min(a, b);
    }
  }
  return { crossings, pieces: new Set(netsOf(members).flatMap((keys) => [...keys])).size };
}
