/** Which face a name is of, by place, when it may have been divided: −1 for none. */
export function originOf(name: string, names: readonly string[]): number {
  const exact = names.indexOf(name);
  if (exact >= 0) return exact;
  const parts = names.flatMap((other, place) => (name.startsWith(`${other}~`) ? [{ place, other }] : []));
  return parts.sort((one, two) => two.other.length - one.other.length)[0]?.place ?? -1;
}
