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

/** Where marked values may be in what a schema describes. */
type Plan<M> =
  | { kind: "marked"; mark: M }
  /** The value itself, described by another schema. */
  | { kind: "same"; inner: z.ZodType }
  | { kind: "list" | "record"; inner: z.ZodType }
  /** Some of its parts by key: of a large object few hold any. */
  | { kind: "tuple" | "object"; inner: (readonly [key: string | number, schema: z.ZodType])[] }
  | { kind: "union"; options: z.ZodType[] };

/**
 * What schemas say of their values beyond their type: that one is a number with a unit, or a reference to a body. Whatever holds
 * such values, however deep, they are found by the schema alone, so that nobody lists them a second time.
 */
export class Marks<M extends object> {
  private readonly registry = z.registry<M>();
  /** Whether marked values can occur in a schema: most of a large drawing has none, and is passed over. */
  private readonly within = new WeakMap<z.ZodType, boolean>();
  /** Steps are read through the same few schemas at every edit. */
  private readonly plans = new WeakMap<z.ZodType, { plan: Plan<M> | null }>();

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
    const plan = this.planOf(schema);
    if (!plan) return;
    if (plan.kind === "marked") found(value, plan.mark, path);
    else this.eachPart(plan, value, (key, inner, item) => this.each(inner, item, found, at(path, key)));
  }

  private changed(schema: z.ZodType, value: unknown, path: string, change: Change<M>): unknown {
    const plan = this.planOf(schema);
    if (!plan) return value;
    if (plan.kind === "marked") return change(value, plan.mark, path);
    let copy = value;
    this.eachPart(plan, value, (key, inner, item) => {
      const now = this.changed(inner, item, at(path, key), change);
      if (key === null) {
        copy = now;
        return;
      }
      if (copy === value) copy = Array.isArray(value) ? [...value] : { ...(value as object) };
      (copy as Record<string | number, unknown>)[key] = now;
    });
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

  /** Where to look in what a schema describes; null where nothing marked can be. */
  private planOf(schema: z.ZodType): Plan<M> | null {
    let known = this.plans.get(schema);
    if (!known) {
      known = { plan: this.holds(schema) ? this.planned(schema) : null };
      this.plans.set(schema, known);
    }
    return known.plan;
  }

  private planned(schema: z.ZodType): Plan<M> | null {
    const mark = this.of(schema);
    if (mark) return { kind: "marked", mark };
    const { def } = schema as z.ZodType & { def: SchemaDef };
    switch (def.type) {
      case "default":
      case "optional":
      case "nullable":
      case "readonly":
        return { kind: "same", inner: def.innerType };
      case "array":
        return { kind: "list", inner: def.element };
      case "record":
        return { kind: "record", inner: def.valueType };
      case "tuple":
        return { kind: "tuple", inner: def.items.map((inner, i) => [i, inner] as const) };
      case "object":
        return { kind: "object", inner: Object.entries(def.shape).filter(([, inner]) => this.holds(inner)) };
      case "union":
        return { kind: "union", options: def.options };
      default:
        return null;
    }
  }

  /** The parts of a value that may hold marked ones, with their keys and schemas; no key where the part is the value itself. */
  private eachPart(
    plan: Exclude<Plan<M>, { kind: "marked" }>,
    value: unknown,
    part: (key: string | number | null, schema: z.ZodType, item: unknown) => void,
  ): void {
    switch (plan.kind) {
      case "same":
        part(null, plan.inner, value);
        return;
      case "list":
        if (Array.isArray(value)) for (const [i, item] of value.entries()) part(i, plan.inner, item);
        return;
      case "record":
        if (isObject(value)) for (const [key, item] of Object.entries(value)) part(key, plan.inner, item);
        return;
      case "tuple":
        if (Array.isArray(value))
          for (const [i, inner] of plan.inner) if (Number(i) < value.length) part(i, inner, value[Number(i)]);
        return;
      case "object":
        if (isObject(value))
          for (const [key, inner] of plan.inner) if (Object.hasOwn(value, key)) part(key, inner, value[key]);
        return;
      case "union": {
        const option = plan.options.find((candidate) => candidate.safeParse(value).success);
        if (option) part(null, option, value);
      }
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
