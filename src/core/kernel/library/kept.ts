interface CppObject {
  delete(): void;
}

/**
 * Handles of parts that are kept with their shape: a body is divided, named and measured again and again while a person
 * works on a part. They are freed with it, whoever frees it.
 */
const kept = new WeakMap<object, CppObject[]>();

export function keepWith<T extends CppObject>(shape: object, parts: T[]): T[] {
  const list = kept.get(shape);
  if (list) list.push(...parts);
  else kept.set(shape, [...parts]);
  return parts;
}

/** Frees an object of the library, what is kept with it, and what is kept with that. */
export function release(object: CppObject): void {
  const parts = kept.get(object);
  if (parts) {
    kept.delete(object);
    for (const part of parts) release(part);
  }
  object.delete();
}
