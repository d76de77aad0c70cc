/**
 * How badly the kind of a face or an edge fits what was picked: 0 for the same, 1 for another. What was drawn freely may have got its
 * closed form since, as the roundings of turned bodies did: what was a spline may be anything, but a spline fits better.
 */
export function kindMisfit(kind: string, picked: string | undefined): number {
  if (picked === undefined || picked === kind) return 0;
  return picked === "spline" ? 0.1 : 1;
}
