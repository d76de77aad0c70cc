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

  /** A copy of a value with every marked value in it changed; `path` is such as `size.0`. */
  map<T>(schema: z.ZodType, value: T, change: Change<M>): T {
    return this.walk(schema, value, "", change) as T;
  }

  /** Calls `found` with every marked value in a value. */
  each(schema: z.ZodType, value: unknown, found: (value: unknown, mark: M, path: string) => void): void {
    this.map(schema, value, (inner, mark, path) => {
      found(inner, mark, path);
      return inner;
    });
  }

  private walk(schema: z.ZodType, value: unknown, path: string, change: Change<M>): unknown {
    const mark = this.registry.get(schema as never) as M | undefined;
    return mark ? change(value, mark, path) : this.descend(schema, value, path, change);
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

  /** Walks into a schema's parts along with the value's. */
  private descend(schema: z.ZodType, value: unknown, path: string, change: Change<M>): unknown {
    if (!this.holds(schema)) return value;
    const { def } = schema as z.ZodType & { def: SchemaDef };
    const walk = (inner: z.ZodType, item: unknown, key: string | number) =>
      this.walk(inner, item, path === "" ? String(key) : `${path}.${key}`, change);
    switch (def.type) {
      case "default":
      case "optional":
      case "nullable":
      case "readonly":
        return this.walk(def.innerType, value, path, change);
      case "array":
        return Array.isArray(value) ? value.map((item, i) => walk(def.element, item, i)) : value;
      case "tuple":
        return Array.isArray(value)
          ? value.map((item, i) => (def.items[i] ? walk(def.items[i], item, i) : item))
          : value;
      case "record":
        return isObject(value) ? mapped(value, (key, item) => walk(def.valueType, item, key)) : value;
      case "object":
        return isObject(value)
          ? mapped(value, (key, item) => (Object.hasOwn(def.shape, key) ? walk(def.shape[key]!, item, key) : item))
          : value;
      case "union": {
        const option = def.options.find((candidate) => candidate.safeParse(value).success);
        return option ? this.walk(option, value, path, change) : value;
      }
      default:
        return value;
    }
  }
}

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

const mapped = (value: Record<string, unknown>, change: (key: string, item: unknown) => unknown) =>
  Object.fromEntries(Object.entries(value).map(([key, item]) => [key, change(key, item)]));
