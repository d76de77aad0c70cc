import type { Trouble } from "../errors";
import { type Body, type Extras, handlingOf, type Item, isBody } from "../items";
import type { Trace } from "../steps/evaluation";

/** What one step made, by its key: the unit that is cached and stored. Shapes belong to the result. */
export interface StepResult {
  key: string;
  made: Item[];
  used: string[];
  becomes?: Record<string, string>;
  /** What it put into other bodies, for steps that repeat it. */
  tools?: Body[];
  /** What its bodies are known by, where it divides. */
  traces?: Trace[][];
  warnings: Trouble[];
  /** What was measured of it. */
  told?: Trouble[];
  /** Measured and meshed on demand, kept with the result. By item id. */
  extras: Map<string, Extras>;
}

export function freeResult(result: StepResult): void {
  for (const item of [...result.made, ...(result.tools ?? [])]) handlingOf(item).free(item);
  result.made = [];
  delete result.tools;
  result.extras.clear();
}

/** Roughly what a result takes in memory, bytes: its items and their meshes. */
export function resultBytes(result: StepResult): number {
  let bytes = 500;
  for (const item of [...result.made, ...(result.tools ?? [])]) bytes += handlingOf(item).bytes(item);
  for (const { mesh } of result.extras.values())
    if (mesh) bytes += mesh.positions.byteLength * 2 + mesh.indices.byteLength + mesh.lines.byteLength;
  return bytes;
}

/** A result as plain values for storing: exact shapes as text, meshes as typed arrays. */
export interface StoredResult extends Omit<StepResult, "made" | "tools" | "extras"> {
  made: StoredItem[];
  tools?: StoredItem[];
}
type StoredItem = { kind: Item["kind"] } & object;

export function toStored({ extras, made, tools, ...rest }: StepResult): StoredResult {
  const stored = (item: Item): StoredItem => ({
    kind: item.kind,
    ...handlingOf(item).store(item, extras.get(item.id)),
  });
  return { ...rest, made: made.map(stored), ...(tools ? { tools: tools.map(stored) } : {}) };
}

/** Takes up a stored result; its shapes are read into the kernel. */
export function fromStored({ made, tools, ...rest }: StoredResult): StepResult {
  const extras = new Map<string, Extras>();
  const restored = (stored: StoredItem): Item => {
    const { item, extras: own } = handlingOf(stored).restore(stored);
    if (own) extras.set(item.id, own);
    return item;
  };
  const items = made.map(restored);
  return { ...rest, made: items, ...(tools ? { tools: tools.map(restored).filter(isBody) } : {}), extras };
}
