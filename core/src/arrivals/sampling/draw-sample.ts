import { seededRandom } from '../../statistics';

/** A cell that can be drawn, with what makes its stratum. */
export interface Drawable {
  id: number;
  /** Production date and box, as far as they are known; together they make the stratum. */
  producedOn: string | null;
  box: string | null;
}

/** Cells of one production date and box, and how many of them were drawn. */
export interface SampleStratum {
  producedOn: string | null;
  box: string | null;
  size: number;
  drawn: number;
}

/** A drawn sample and how many came from each stratum. */
export interface Draw {
  /** Drawn cells, in the order of the lot. */
  ids: number[];
  strata: SampleStratum[];
}

/**
 * Draws a sample at random, in proportion from every production date and box, so that nobody
 * picks the pretty ones (handbook, chapter 1). The same seed draws the same cells.
 *
 * Shares are rounded by largest remainder; every stratum gives one while the sample has room.
 * @throws RangeError when the sample is larger than the lot.
 */
export function drawSample(cells: readonly Drawable[], count: number, seed: number): Draw {
  if (!Number.isInteger(count) || count < 0 || count > cells.length)
    throw new RangeError(`Expected a sample of 0 to ${cells.length} cells; found ${count}.`);
  const groups = new Map<string, Drawable[]>();
  for (const cell of cells) {
    const key = JSON.stringify([cell.producedOn, cell.box]);
    groups.set(key, [...(groups.get(key) ?? []), cell]);
  }
  const strata = [...groups.values()];
  const shares = allocate(
    strata.map((group) => group.length),
    count,
  );
  const random = seededRandom(seed);
  const chosen = new Set<number>();
  strata.forEach((group, i) => {
    const pool = group.map((cell) => cell.id);
    for (let k = 0; k < shares[i]!; k++) {
      const at = k + Math.floor(random.uniform() * (pool.length - k));
      [pool[k], pool[at]] = [pool[at]!, pool[k]!];
      chosen.add(pool[k]!);
    }
  });
  return {
    ids: cells.filter((cell) => chosen.has(cell.id)).map((cell) => cell.id),
    strata: strata.map((group, i) => ({
      producedOn: group[0]!.producedOn,
      box: group[0]!.box,
      size: group.length,
      drawn: shares[i]!,
    })),
  };
}

/** Sets the order’s random numbers apart from the draw’s. */
const ORDER_STREAM = 0x9e3779b9;

/**
 * Some cells in the order a seed puts them in: fixed before the first is tested, so that stopping early
 * picks nothing. The same seed gives the same order, by another stream than the draw’s: with the draw’s
 * own numbers which cell comes first would hang on how it was drawn.
 * @example drawOrder([1, 2, 3], 7).length // 3
 */
export function drawOrder<Id>(ids: readonly Id[], seed: number): Id[] {
  const order = [...ids];
  const random = seededRandom((seed ^ ORDER_STREAM) >>> 0);
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
  return order;
}

/** Splits a count over groups in proportion, none above its size, each at least one if it can. */
function allocate(sizes: number[], count: number): number[] {
  const total = sizes.reduce((a, b) => a + b, 0);
  const floor = count >= sizes.length ? 1 : 0;
  const shares = sizes.map((size) =>
    Math.min(size, Math.max(floor, Math.floor((count * size) / total))),
  );
  const left = () => count - shares.reduce((a, b) => a + b, 0);
  const want = (i: number) => (count * sizes[i]!) / total - shares[i]!;
  const order = () => sizes.map((_, i) => i).sort((a, b) => want(b) - want(a) || a - b);
  while (left() > 0) shares[order().find((i) => shares[i]! < sizes[i]!)!]!++;
  while (left() < 0)
    shares[
      order()
        .reverse()
        .find((i) => shares[i]! > floor)!
    ]!--;
  return shares;
}
