import { type Part21Record, pointers, readString, splitArguments } from "./part21";

/** The names that a STEP file gives its bodies, and the unit it is written in. */
export interface StepNames {
  /** The name of the body that a record (by its 1-based place in the file) makes. */
  nameOf(record: number | null): string | null;
  /** The length unit as the file names it: `mm`, `inch`, `metre` …; null when it names none. */
  unit: string | null;
  /** How many records of each kind there are, for telling what a file without bodies does hold. */
  has(type: string): boolean;
  /** The files that this one only points at for its geometry, as an assembly may. */
  otherFiles: string[];
}

const USELESS = new Set(["", "NONE", "UNNAMED", "SOLID", "BODY"]);

/**
 * Follows body → representation → product definition → product, as the application protocols lay it down.
 * A body's own name counts where one product holds several bodies.
 */
export function stepNames(records: readonly Part21Record[]): StepNames {
  const byId = new Map(records.map((record) => [record.id, record] as const));
  const ofType = (type: string) => records.filter((record) => record.types.includes(type));
  const argument = (record: Part21Record | undefined, place: number) =>
    record ? (splitArguments(record.body)[place] ?? "") : "";
  const follow = (record: Part21Record | undefined, place: number) => {
    const [target] = pointers(argument(record, place));
    return target === undefined ? undefined : byId.get(target);
  };

  const productOf = new Map<number, string>();
  for (const link of ofType("SHAPE_DEFINITION_REPRESENTATION")) {
    const definition = follow(follow(link, 0), 2);
    const product = follow(follow(definition, 2), 2);
    const [representation] = pointers(argument(link, 1));
    if (representation === undefined || !product?.types.includes("PRODUCT")) continue;
    productOf.set(representation, readString(argument(product, 1)) || readString(argument(product, 0)));
  }
  // A representation may stand for another one of the same product.
  for (const link of ofType("SHAPE_REPRESENTATION_RELATIONSHIP")) {
    if (link.types.length > 1) continue;
    const [a] = pointers(argument(link, 2));
    const [b] = pointers(argument(link, 3));
    if (a === undefined || b === undefined) continue;
    if (productOf.has(a) && !productOf.has(b)) productOf.set(b, productOf.get(a)!);
    else if (productOf.has(b) && !productOf.has(a)) productOf.set(a, productOf.get(b)!);
  }

  const home = new Map<number, { product: string; siblings: number }>();
  for (const record of records) {
    const product = productOf.get(record.id);
    if (product === undefined) continue;
    const items = pointers(argument(record, 1)).filter((id) => isBodyRecord(byId.get(id)));
    for (const item of items) home.set(item, { product, siblings: items.length });
  }

  const nameOfBody = (record: Part21Record): string | null => {
    const own = readString(argument(record, 0)).trim();
    const place = home.get(record.id);
    const useful = !USELESS.has(own.toUpperCase());
    if (useful && (!place || place.siblings > 1 || USELESS.has(place.product.toUpperCase()))) return own;
    if (place && !USELESS.has(place.product.trim().toUpperCase())) return place.product.trim();
    return useful ? own : null;
  };

  return {
    nameOf(number) {
      const record = number === null ? undefined : records[number - 1];
      if (!record) return null;
      const direct = nameOfBody(record);
      if (direct) return direct;
      // A shell's name may stand on the model or solid that uses it.
      const user = records.find(
        (other) => isBodyRecord(other) && other.id !== record.id && pointers(other.body).includes(record.id),
      );
      return user ? nameOfBody(user) : null;
    },
    unit: lengthUnit(records, byId),
    has: (type) => records.some((record) => record.types.includes(type)),
    otherFiles: otherFiles(),
  };

  function otherFiles(): string[] {
    const named = [
      ...ofType("DOCUMENT_FILE").map((record) => readString(argument(record, 0))),
      ...ofType("APPLIED_EXTERNAL_IDENTIFICATION_ASSIGNMENT").map((record) => readString(argument(record, 0))),
    ];
    return [...new Set(named.map((name) => name.trim()).filter((name) => /\.\w+$/.test(name)))];
  }
}

function isBodyRecord(record: Part21Record | undefined): boolean {
  return record?.types.some((type) => /SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP|SURFACE_MODEL/.test(type)) ?? false;
}

function lengthUnit(records: readonly Part21Record[], byId: Map<number, Part21Record>): string | null {
  const context = records.find((record) => record.types.includes("GLOBAL_UNIT_ASSIGNED_CONTEXT"));
  const units = context ? pointers(context.body).map((id) => byId.get(id)) : records;
  const length = units.find((record) => record?.types.includes("LENGTH_UNIT"));
  if (!length) return null;
  const conversion = /CONVERSION_BASED_UNIT\s*\(\s*'([^']*)'/i.exec(length.body);
  if (conversion) return conversion[1]!.toLowerCase();
  const si = /SI_UNIT\s*\(\s*(\$|\.\w+\.)\s*,\s*\.METRE\.\s*\)/i.exec(length.body);
  if (!si) return null;
  const prefix = si[1]!.replace(/\./g, "").toUpperCase();
  return { $: "metre", MILLI: "mm", CENTI: "cm", MICRO: "µm", KILO: "km", DECI: "dm" }[prefix] ?? prefix.toLowerCase();
}
