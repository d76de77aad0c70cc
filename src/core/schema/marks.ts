import * as z from "zod";

type SchemaDef =
  | { type: "default" | "optional" | "nullable" | "readonly"; innerType: z.ZodType }
  | { type: "array"; element: z.ZodType }
  | { type: "tuple"; items: z.ZodType[] }
  | { type: "record"; valueType: z.ZodType }
  | { type: "object"; shape: Record<string, z.ZodType> }
  | { type: "union"; options: z.ZodType[] }
  | { type: "string" };

type Change<M> = (value: unknown, mark: M, path: string) => unknown;

/**
 * What schemas say of their values beyond their type: that one is a number with a unit, or a reference to a body. Whatever holds
 * such values, however deep, they are found by the schema alone, so that nobody lists them a second time.
 */
export class Marks<M extends object> {
  private readonly registry = z.registry<M>();
  /** Whether marked values can occur in a schema: most of a large drawing has none, and is passed over. */
  private readonly within = new WeakMap<z.ZodType, boolean>();

  /** Marks a schema, and gives it back. Describe it before: a described schema is another. */
  add<S extends z.ZodType>(schema: S, mark: M): S {
    this.registry.add(schema, mark as never);
    return schema;
  }

  /** What a schema itself is marked as. */
  of(schema: z.ZodType): M | undefined {
    return this.registry.get(schema as never) as M | undefined;
  }

  /** A copy of a value with every marked value in it changed; `path` is such as `size.0`. */
  map<T>(schema: z.ZodType, value: T, change: Change<M>): T {
    return this.changed(schema, value, "", change) as T;
  }

  /** Calls `found` with every marked value in a value. */
  each(schema: z.ZodType, value: unknown, found: (value: unknown, mark: M, path: string) => void, path = ""): void {
    const mark = this.of(schema);
    if (mark) found(value, mark, path);
    else for (const [key, inner, item] of this.parts(schema, value)) this.each(inner, item, found, at(path, key));
  }

  private changed(schema: z.ZodType, value: unknown, path: string, change: Change<M>): unknown {
    const mark = this.of(schema);
    if (mark) return change(value, mark, path);
    let copy = value;
    for (const [key, inner, item] of this.parts(schema, value)) {
      const now = this.changed(inner, item, at(path, key), change);
      if (key === null) return now;
      if (copy === value) copy = Array.isArray(value) ? [...value] : { ...(value as object) };
      (copy as Record<string | number, unknown>)[key] = now;
    }
    return copy;
  }

  private holds(schema: z.ZodType): boolean {
    let found = this.within.get(schema);
    if (found === undefined) {
      // Schemas may refer to themselves.
      this.within.set(schema, false);
      found =
        this.registry.has(schema as never) ||
        partsOf((schema as z.ZodType & { def: SchemaDef }).def).some((part) => this.holds(part));
      this.within.set(schema, found);
    }
    return found;
  }

  /** The parts of a value that may hold marked ones, with their keys and schemas; no key where the part is the value itself. */
  private parts(schema: z.ZodType, value: unknown): [key: string | number | null, schema: z.ZodType, item: unknown][] {
    if (!this.holds(schema)) return [];
    const { def } = schema as z.ZodType & { def: SchemaDef };
    switch (def.type) {
      case "default":
      case "optional":
      case "nullable":
      case "readonly":
        return [[null, def.innerType, value]];
      case "array":
        return Array.isArray(value) ? value.map((item, i) => [i, def.element, item]) : [];
      case "tuple":
        return Array.isArray(value)
          ? def.items.flatMap((inner, i) => (i < value.length ? [[i, inner, value[i]]] : []))
          : [];
      case "record":
        return isObject(value) ? Object.entries(value).map(([key, item]) => [key, def.valueType, item]) : [];
      case "object":
        return isObject(value)
          ? Object.entries(def.shape).flatMap(([key, inner]) =>
              Object.hasOwn(value, key) && this.holds(inner) ? [[key, inner, value[key]]] : [],
            )
          : [];
      case "union": {
        const option = def.options.find((candidate) => candidate.safeParse(value).success);
        return option ? [[null, option, value]] : [];
      }
      default:
        return [];
    }
  }
}

const at = (path: string, key: string | number | null): string =>
  key === null ? path : path === "" ? String(key) : `${path}.${key}`;

function partsOf(def: SchemaDef): z.ZodType[] {
  switch (def.type) {
    case "default":
    case "optional":
    case "nullable":
    case "readonly":
      return [def.innerType];
    case "array":
      return [def.element];
    case "tuple":
      return def.items;
    case "record":
      return [def.valueType];
    case "object":
      return Object.values(def.shape);
    case "union":
      return def.options;
    default:
      return [];
  }
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
