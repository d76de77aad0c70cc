import type { Vec3 } from "../space/vectors";
import { isConic } from "./conics";
import { type Child, type PartRecord, type RecordSpans, readContents, type Sense, type SurfaceImage } from "./contents";
import type { Curve } from "./curves";
import { type Place, type Places, placed, turned } from "./places";
import type { SurfaceRecord } from "./surfaces";

/** An edge as a wire runs along it. */
export interface EdgeUse {
  edge: number;
  /** Whether it bounds: an edge can also lie inside a face. */
  bounds: boolean;
  /** +1 where the wire runs as the edge does, −1 against it, on the face as its surface lies. */
  way: 1 | -1;
}

export interface FaceStructure {
  bounds: boolean;
  /** Whether the face lies as its surface does: its normal then is the surface's. */
  forward: boolean;
  /** What it lies on, where it lies; null for a face without a surface. */
  surface: SurfaceRecord | null;
  wires: EdgeUse[][];
  /** The image of an edge in the parameters of the face's surface, as a wire of the face runs along it. */
  image(use: EdgeUse): { curve: Curve; from: number; to: number } | null;
}

export interface EdgeStructure {
  /** An edge without length, as at a sphere's pole. */
  point: boolean;
  /** The faces that it bounds. */
  faces: number[];
  /** How far what meets in it is apart, mm, and where that stands in the record, bytes. */
  tolerance: number;
  toleranceAt: number;
  /** How many times faces use it: once where the skin is open. */
  uses: number;
  /** Where it begins and ends; the same twice for a closed one. */
  vertices: number[];
  /** What it runs along, in space, and between which parameters; null for an edge without length. */
  curve: { curve: Curve; from: number; to: number } | null;
}

/** What a shape is made of and what touches what, in numbers: everything by its place in `subshapes`. */
export interface Structure {
  faces: FaceStructure[];
  edges: EdgeStructure[];
  vertices: { faces: number[]; at: Vec3; tolerance: number; toleranceAt: number }[];
  /** The faces of each shell. */
  shells: number[][];
}

type RecordOf<K extends PartRecord["kind"]> = Extract<PartRecord, { kind: K }>;

/** A part with the place and sense that it has in the whole shape. */
interface Placed {
  part: PartRecord;
  place: Place;
  sense: Sense;
}

/**
 * The structure of a shape from the library's own record of it, walked as the library walks: depth first.
 * @param spans is told where what is read stands in the record.
 */
export function structureOf(record: Uint8Array, spans?: RecordSpans): Structure {
  const { root, places } = readContents(record, spans);
  return new Walk(places).all(root);
}

/** The structures of what a compound holds, in order, from the library's record of the compound: each as if it were recorded alone. */
export function structuresWithin(record: Uint8Array): Structure[] {
  const { root, places } = readContents(record);
  return root.part.children.map((child) => new Walk(places).all(child));
}

class Walk {
  private readonly result: Structure = { faces: [], edges: [], vertices: [], shells: [] };
  private readonly faces = new Map<number, number>();
  private readonly edges = new Map<number, number>();
  private readonly vertices = new Map<number, number>();
  private readonly images: EdgeImages;

  constructor(private readonly places: Places) {
    this.images = new EdgeImages(places);
  }

  all(root: Child): Structure {
    this.find(root, (found) => this.face(found), "face");
    const shells = new Set<number>();
    this.find(
      root,
      (shell) => {
        const key = keyOf(shell);
        if (shells.has(key)) return;
        shells.add(key);
        const own = new Set<number>();
        this.find(shell, (face) => own.add(this.faces.get(keyOf(face))!), "face");
        this.result.shells.push([...own]);
      },
      "shell",
    );
    return this.result;
  }

  /** Looks at each part of a kind in a part, as often as it occurs. */
  private find(of: Placed, look: (found: Placed) => void, kind: "shell" | "face"): void {
    if (of.part.kind === kind) look(of);
    else if (DEPTH[of.part.kind] < DEPTH[kind])
      for (const child of of.part.children) this.find(this.inside(of, child), look, kind);
  }

  private inside(outer: Placed, child: Child): Placed {
    return {
      part: child.part,
      place: this.places.within(outer.place, child.place),
      sense: composed(outer.sense, child.sense),
    };
  }

  private face(found: Placed): void {
    const key = keyOf(found);
    if (this.faces.has(key)) return;
    const place = this.result.faces.length;
    this.faces.set(key, place);
    const { surface, surfaceId, place: shift } = found.part as RecordOf<"face">;
    const where = this.places.within(found.place, shift);
    const wires = found.part.children
      .filter(({ part }) => part.kind === "wire")
      .map((child) => this.wire(found, child, place));
    this.result.faces.push({
      bounds: bounding(found.sense),
      forward: found.sense !== "reversed",
      surface: surface && moved(surface, where),
      wires,
      image: this.images.on(surfaceId, where),
    });
  }

  private wire(face: Placed, child: Child, place: number): EdgeUse[] {
    const wire = this.inside(face, child);
    return wire.part.children
      .filter(({ part }) => part.kind === "edge")
      .map((part) => {
        const edge = this.inside(wire, part);
        const number = this.edge(edge);
        const entry = this.result.edges[number]!;
        entry.faces = noted(entry.faces, place);
        if (bounding(face.sense) && bounding(edge.sense)) entry.uses++;
        for (const vertex of entry.vertices) {
          const corner = this.result.vertices[vertex]!;
          corner.faces = noted(corner.faces, place);
        }
        const backwards = composed(child.sense, part.sense) === "reversed";
        return { edge: number, bounds: bounding(edge.sense), way: backwards ? -1 : 1 };
      });
  }

  private edge(found: Placed): number {
    const key = keyOf(found);
    let number = this.edges.get(key);
    if (number !== undefined) return number;
    const part = found.part as RecordOf<"edge">;
    let vertices: number[] = [];
    for (const child of part.children) {
      if (child.part.kind !== "vertex") continue;
      const vertex = this.inside(found, child);
      const place = this.vertex(vertex);
      if (bounding(vertex.sense)) vertices = followedBy(vertices, place);
    }
    const { curve } = part;
    number = this.result.edges.length;
    this.edges.set(key, number);
    this.images.add(part.images, found.place);
    this.result.edges.push({
      point: part.point,
      tolerance: part.tolerance,
      toleranceAt: part.toleranceAt,
      faces: [],
      uses: 0,
      vertices,
      curve: curve && {
        curve: movedCurve(curve.curve, this.places.within(found.place, curve.place)),
        from: curve.from,
        to: curve.to,
      },
    });
    return number;
  }

  private vertex(found: Placed): number {
    const key = keyOf(found);
    let number = this.vertices.get(key);
    if (number === undefined) {
      number = this.result.vertices.length;
      this.vertices.set(key, number);
      const { at, tolerance, toleranceAt } = found.part as RecordOf<"vertex">;
      this.result.vertices.push({ faces: [], at: placed(found.place, at), tolerance, toleranceAt });
    }
    return number;
  }
}

/**
 * The images of edges on the surfaces that they bound, by the place of the edge: all that a structure keeps of the record
 * that it was read from. Structures last as long as their shapes, and a part has dozens.
 */
class EdgeImages {
  private readonly edges: { images: readonly SurfaceImage[]; place: Place }[] = [];

  constructor(private readonly places: Places) {}

  add(images: readonly SurfaceImage[], place: Place): void {
    this.edges.push({ images, place });
  }

  /** Those on one surface. Made here, where nothing of the record that was read is at hand that it would keep. */
  on(surfaceId: number, where: Place): FaceStructure["image"] {
    return ({ edge, way }) => {
      const { images, place } = this.edges[edge]!;
      const found = images.find(
        (image) => image.surfaceId === surfaceId && this.places.within(place, image.place).id === where.id,
      );
      return found ? { curve: way === 1 ? found.curve : found.back, from: found.from, to: found.to } : null;
    };
  }
}

const DEPTH: Record<PartRecord["kind"], number> = {
  compound: 0,
  solid: 1,
  shell: 2,
  face: 3,
  wire: 4,
  edge: 5,
  vertex: 6,
};

/** Parts have numbers below this: a small number finds them quickest. */
const PARTS = 2 ** 20;

/** Equal for the same part at the same place, whatever its sense. */
const keyOf = ({ part, place }: Placed) => place.id * PARTS + part.id;

const bounding = (sense: Sense) => sense === "forward" || sense === "reversed";

/** The sense of a part of a part: what lies inside stays so, whatever it is part of. */
function composed(outer: Sense, inner: Sense): Sense {
  if (!bounding(inner)) return inner;
  if (outer === "forward") return inner;
  if (outer === "reversed") return inner === "forward" ? "reversed" : "forward";
  return outer;
}

/**
 * A list with a value in it, once. A list of its own length: one that is pushed to has room for seventeen, and a shape has
 * hundreds of lists of two or three, which last as long as it does.
 */
const noted = (list: number[], value: number): number[] => (list.includes(value) ? list : followedBy(list, value));

/** Most lists are of one or two: those are made at once. */
function followedBy(list: number[], value: number): number[] {
  if (list.length === 0) return [value];
  return list.length === 1 ? [list[0]!, value] : list.concat(value);
}

function moved(surface: SurfaceRecord, place: Place): SurfaceRecord {
  if (place.id === 0) return surface;
  if (!("axis" in surface)) return { ...surface, matrix: place.matrix };
  const { at, axis, x, y } = surface;
  return { ...surface, at: placed(place, at), axis: turned(place, axis), x: turned(place, x), y: turned(place, y) };
}

function movedCurve(curve: Curve, place: Place): Curve {
  if (place.id === 0) return curve;
  if (curve.kind === "line") return { ...curve, at: placed(place, curve.at), way: turned(place, curve.way) };
  if (!isConic(curve)) return { ...curve, matrix: place.matrix };
  return { ...curve, at: placed(place, curve.at), x: turned(place, curve.x), y: turned(place, curve.y) };
}
