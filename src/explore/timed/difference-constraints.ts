/** `[later, earlier, least]`: one moment is at least so long after another. */
export type DifferenceConstraint = readonly [number, number, number];

/**
 * The earliest moments, from 0 on, that are as far apart as they must be, found by moving them until none need move any more (Bellman,
 * "On a routing problem", 1958); undefined where there are none.
 */
export function earliestMoments(
  differences: readonly DifferenceConstraint[],
  count: number,
): Float64Array | undefined {
  const moments = new Float64Array(count);
  for (let round = 0; round <= count; round++) {
    let moved = false;
    for (const [later, earlier, least] of differences) {
      if (moments[earlier]! + least <= moments[later]!) continue;
      moments[later] = moments[earlier]! + least;
      moved = true;
    }
    if (!moved) return moments;
  }
  return undefined;
}
