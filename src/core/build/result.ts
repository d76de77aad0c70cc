import type { Measures } from "../check";
import type { Trouble } from "../errors";
import { freeShape, type Mesh, shapeFromText, shapeToText } from "../kernel";
import { type Body, type Item, isBody } from "../naming";
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
  /** Measured and meshed on demand, kept with the result. By item id. */
  extras: Map<string, Extras>;
}

/** A mesh with its seam lines marked. */
export type StoredMesh = Mesh & { seams: Uint8Array };

export interface Extras {
  measures?: Measures;
  mesh?: StoredMesh;
}

export function freeResult(result: StepResult): void {
  for (const item of result.made) if (isBody(item)) freeShape(item.shape);
  for (const { shape } of result.tools ?? []) freeShape(shape);
  result.made = [];
  delete result.tools;
  result.extras.clear();
}

/** Roughly what a result takes in memory, bytes: its meshes, and a guess for the exact shape from its faces. */
export function resultBytes(result: StepResult): number {
  let bytes = 500;
  for (const item of [...result.made, ...(result.tools ?? [])]) if (isBody(item)) bytes += 4000 * item.faces.length;
  for (const { mesh } of result.extras.values())
    if (mesh) bytes += mesh.positions.byteLength * 2 + mesh.indices.byteLength + mesh.lines.byteLength;
  return bytes;
}

/** A result as plain values for storing: exact shapes as text, meshes as typed arrays. */
export interface StoredResult {
  key: string;
  made: StoredItem[];
  used: string[];
  becomes?: Record<string, string>;
  tools?: StoredTool[];
  traces?: Trace[][];
  warnings: Trouble[];
}
type StoredTool = Omit<Body, "shape"> & { shape: string };
type StoredItem =
  | Extract<Item, { kind: "workplane" | "sketch" }>
  | {
      kind: "solid" | "sheet";
      id: string;
      faces: string[];
      hint: Item["hint"];
      shape: string;
      measures?: Measures;
      mesh?: StoredMesh;
    };

const isStoredBody = (item: StoredItem): item is Extract<StoredItem, { kind: "solid" | "sheet" }> => isBody(item);

export function toStored(result: StepResult): StoredResult {
  const { key, used, becomes, tools, traces, warnings } = result;
  return {
    key,
    used,
    ...(becomes ? { becomes } : {}),
    ...(tools ? { tools: tools.map((tool) => ({ ...tool, shape: shapeToText(tool.shape) })) } : {}),
    ...(traces ? { traces } : {}),
    warnings,
    made: result.made.map(
      (item): StoredItem =>
        !isBody(item) ? item : { ...item, shape: shapeToText(item.shape), ...result.extras.get(item.id) },
    ),
  };
}

/** Takes up a stored result; its shapes are read into the kernel. */
export function fromStored(stored: StoredResult): StepResult {
  const extras = new Map<string, Extras>();
  const made = stored.made.map((item): Item => {
    if (!isStoredBody(item)) return item;
    const { measures, mesh, shape, ...rest } = item;
    extras.set(item.id, { ...(measures ? { measures } : {}), ...(mesh ? { mesh } : {}) });
    return { ...rest, shape: shapeFromText(shape) };
  });
  const { key, used, becomes, traces, warnings } = stored;
  const tools = stored.tools?.map((tool): Body => ({ ...tool, shape: shapeFromText(tool.shape) }));
  const more = { ...(becomes ? { becomes } : {}), ...(tools ? { tools } : {}), ...(traces ? { traces } : {}) };
  return { key, used, ...more, warnings, made, extras };
}
