/** A point on the canvas, pixels, with its depth: smaller is nearer to the eye. */
export interface Pixel {
  x: number;
  y: number;
  depth: number;
}

/** How far a pixel lies from a segment on the canvas, and the depth of the segment's nearest point. */
export function distanceToSegment(at: { x: number; y: number }, a: Pixel, b: Pixel): { away: number; depth: number } {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const squared = dx * dx + dy * dy;
  const share = squared > 0 ? Math.min(1, Math.max(0, ((at.x - a.x) * dx + (at.y - a.y) * dy) / squared)) : 0;
  return {
    away: Math.hypot(at.x - (a.x + dx * share), at.y - (a.y + dy * share)),
    depth: a.depth + (b.depth - a.depth) * share,
  };
}

export interface Candidate<T> {
  what: T;
  /** Pixels from the pointer. */
  away: number;
  depth: number;
}

/**
 * The candidate that a click means: within reach, not behind the surface seen there, and of several as near as makes no
 * difference the one in front.
 */
export function nearestSeen<T>(
  candidates: readonly Candidate<T>[],
  reach: number,
  surfaceDepth: number,
  slack: number,
): T | null {
  const seen = candidates.filter(({ away, depth }) => away <= reach && depth <= surfaceDepth + slack);
  if (seen.length === 0) return null;
  const closest = Math.min(...seen.map(({ away }) => away));
  const tied = seen.filter(({ away }) => away <= closest + 2);
  return tied.reduce((best, next) => (next.depth < best.depth ? next : best)).what;
}
