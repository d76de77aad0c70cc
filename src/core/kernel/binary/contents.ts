import { Bytes } from "./bytes";
import { type Curve, readCurve } from "./curves";
import { type Place, Places } from "./places";
import { readSurface, type SurfaceRecord } from "./surfaces";

/** How a part lies in what it is part of: as it is, the other way round, or inside without bounding it. */
export type Sense = "forward" | "reversed" | "internal" | "external";
const SENSES: Sense[] = ["forward", "reversed", "internal", "external"];

export interface Child {
  sense: Sense;
  part: PartRecord;
  place: Place;
}

interface Common {
  /** Its number; a part that several things are made of has one. */
  id: number;
  children: Child[];
}

/** What the library keeps of a part, without where it has been moved to. */
export type PartRecord = Common &
  (
    | { kind: "vertex"; at: number[]; tolerance: number; toleranceAt: number }
    | {
        kind: "edge";
        tolerance: number;
        /** Where the tolerance stands in the record, bytes. */
        toleranceAt: number;
        /** Without length, as at a sphere's pole. */
        point: boolean;
        curve: { curve: Curve; place: Place; from: number; to: number } | null;
        /** Its images in the parameters of surfaces; a second one where it is a seam that a surface meets itself at. */
        images: SurfaceImage[];
      }
    | { kind: "face"; surface: SurfaceRecord | null; surfaceId: number; place: Place }
    | { kind: "compound" | "solid" | "shell" | "wire" }
  );

export interface SurfaceImage {
  surfaceId: number;
  place: Place;
  from: number;
  to: number;
  curve: Curve;
  /** The image of the edge when it is run the other way. */
  back: Curve;
}

/** The first byte of something in a record, and the one behind its last. */
export type Span = readonly [number, number];

/** Where things stand in a record, so that others can be put in their place. What was moved elsewhere is not among them. */
export interface RecordSpans {
  /** Of curves in space, and of images. */
  curves: Map<Curve, Span>;
  surfaces: Map<SurfaceRecord, Span>;
  /** Of the two parameters between which an edge runs along a curve or an image: one place for each edge that does. */
  ranges: Map<Curve, number[]>;
}

export const noSpans = (): RecordSpans => ({ curves: new Map(), surfaces: new Map(), ranges: new Map() });

const KINDS = ["compound", "compound", "solid", "shell", "face", "wire", "edge", "vertex"] as const;

/** The version of the record that this reads; the library writes it. */
const VERSION = "Open CASCADE Topology V4";

/**
 * Reads the library's own binary record of a shape: its tables of places, curves and surfaces, then its parts, each
 * before those that it is part of, then which part the shape is. Triangles are passed over.
 * @param spans is told where what is read stands in the record.
 * @throws Error when the record is not of the version that is known here.
 */
export function readContents(data: Uint8Array, spans?: RecordSpans): { root: Child; places: Places } {
  const bytes = new Bytes(data);
  const version = bytes.line();
  if (!version.startsWith(VERSION)) throw new Error(`The shape's record is of another version: ${version}.`);
  const places = new Places(bytes);
  const list = <T>(name: string, read: () => T): T[] => {
    const entries: T[] = [];
    for (let left = bytes.table(name); left > 0; left--) entries.push(read());
    return entries;
  };
  const noted = <T>(into: Map<T, Span> | undefined, read: () => T): T => {
    const from = bytes.place;
    const entry = read();
    into?.set(entry, [from, bytes.place]);
    return entry;
  };
  const noteRange = (curve: Curve) => {
    if (spans) spans.ranges.set(curve, [...(spans.ranges.get(curve) ?? []), bytes.place]);
  };
  const images = list("Curve2ds", () => noted(spans?.curves, () => readCurve(bytes, 2)));
  const curves = list("Curves", () => noted(spans?.curves, () => readCurve(bytes, 3)));
  list("Polygon3D", () => skipPolygon(bytes));
  list("PolygonOnTriangulations", () => skipPolygonOnTriangles(bytes));
  const surfaces = list("Surfaces", () => noted(spans?.surfaces, () => readSurface(bytes)));
  list("Triangulations", () => skipTriangles(bytes));

  const count = bytes.table("TShapes");
  const parts: PartRecord[] = [];
  const child = (sense: number): Child => {
    // Parts are numbered from the last one.
    const part = parts[count - bytes.integer()]!;
    return { sense: SENSES[sense]!, part, place: places.at(bytes.integer()) };
  };
  const children = (): Child[] => {
    bytes.skip(7);
    const found: Child[] = [];
    for (let sense = bytes.byte(); sense !== END; sense = bytes.byte()) found.push(child(sense));
    return found;
  };
  const edge = (id: number): PartRecord => {
    const toleranceAt = bytes.place;
    const tolerance = bytes.real();
    bytes.skip(2);
    const point = bytes.byte() === 1;
    let curve: Extract<PartRecord, { kind: "edge" }>["curve"] = null;
    const onSurfaces: SurfaceImage[] = [];
    for (let kind = bytes.byte(); kind !== 0; kind = bytes.byte()) {
      if (kind === 1) {
        const [drawn, place] = [curves[bytes.integer() - 1]!, places.at(bytes.integer())];
        noteRange(drawn);
        curve = { curve: drawn, place, from: bytes.real(), to: bytes.real() };
      } else if (kind === 2 || kind === 3) {
        const image = images[bytes.integer() - 1]!;
        let back = image;
        if (kind === 3) {
          back = images[bytes.integer() - 1]!;
          bytes.skip(1);
        }
        const [surfaceId, place] = [bytes.integer(), places.at(bytes.integer())];
        for (const one of new Set([image, back])) noteRange(one);
        onSurfaces.push({ surfaceId, place, from: bytes.real(), to: bytes.real(), curve: image, back });
      } else if (kind in OTHER_FORMS) bytes.skip(OTHER_FORMS[kind]!);
      else throw new Error(`The shape's record has an edge with a part of kind ${kind}.`);
    }
    return { id, kind: "edge", tolerance, toleranceAt, point, curve, images: onSurfaces, children: children() };
  };
  const vertex = (id: number): PartRecord => {
    const toleranceAt = bytes.place;
    const tolerance = bytes.real();
    const at = bytes.reals(3);
    for (let kind = bytes.byte(); kind !== 0; kind = bytes.byte()) bytes.skip(POINT_FORMS[kind]!);
    return { id, kind: "vertex", at, tolerance, toleranceAt, children: children() };
  };
  const face = (id: number): PartRecord => {
    bytes.skip(9);
    const [surfaceId, place] = [bytes.integer(), places.at(bytes.integer())];
    if (bytes.byte() === 2) bytes.skip(4);
    return { id, kind: "face", surface: surfaces[surfaceId - 1] ?? null, surfaceId, place, children: children() };
  };
  for (let id = 0; id < count; id++) {
    const kind = KINDS[bytes.byte()]!;
    parts.push(
      kind === "edge"
        ? edge(id)
        : kind === "vertex"
          ? vertex(id)
          : kind === "face"
            ? face(id)
            : { id, kind, children: children() },
    );
  }
  return { root: child(bytes.byte()), places };
}

/** An asterisk ends the list of what a part is made of. */
const END = 42;

/** Bytes of what else an edge may keep: how smooth it is, and its polygons. */
const OTHER_FORMS: Record<number, number> = { 4: 17, 5: 8, 6: 12, 7: 16 };
/** Bytes of what else a vertex may keep: its parameters on a curve, on a curve of a surface, on a surface. */
const POINT_FORMS: Record<number, number> = { 1: 16, 2: 20, 3: 24 };

function skipPolygon(bytes: Bytes): void {
  const nodes = bytes.integer();
  const parameters = bytes.byte();
  bytes.skip(8 + nodes * 24 + (parameters ? nodes * 8 : 0));
}

function skipPolygonOnTriangles(bytes: Bytes): void {
  const nodes = bytes.integer();
  bytes.skip(nodes * 4 + 8);
  if (bytes.byte()) bytes.skip(nodes * 8);
}

function skipTriangles(bytes: Bytes): void {
  const [nodes, triangles] = [bytes.integer(), bytes.integer()];
  const [parameters, normals] = [bytes.byte(), bytes.byte()];
  bytes.skip(8 + nodes * 24 + triangles * 12 + (parameters ? nodes * 16 : 0) + (normals ? nodes * 12 : 0));
}
