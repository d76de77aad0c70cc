import type { Shape } from "./topology";

/** What is found out about a shape is kept for all handles of it: the bench, the tray and the step that made it each have their own. */
const identities = new WeakMap<Shape, object>();

/** The same for every handle of one shape, where it lies: what its numbers are kept by. */
export function identityOf(shape: Shape): object {
  let found = identities.get(shape);
  if (!found) {
    found = {};
    identities.set(shape, found);
  }
  return found;
}

/** Notes that a handle is of the same shape as another, in the same place. */
export function sameAs<T extends Shape>(handle: T, other: Shape): T {
  identities.set(handle, identityOf(other));
  return handle;
}

/** A fact of a shape that is found out once, however many handles of it ask. */
export function perShape<T>(find: (shape: Shape) => T): (shape: Shape) => T {
  const found = new WeakMap<object, { fact: T }>();
  return (shape) => {
    const id = identityOf(shape);
    let kept = found.get(id);
    if (!kept) {
      kept = { fact: find(shape) };
      found.set(id, kept);
    }
    return kept.fact;
  };
}
