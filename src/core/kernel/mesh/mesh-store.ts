import type { Curve, FaceStructure, Structure } from "../binary";
import { identityOf } from "../library/identity";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { scoped } from "../library/scope";
import { compound, facesOf, type Shape } from "../library/topology";
import { Digest } from "../space/digest";
import { flatPatch } from "./flat-patch";
import type { Patch } from "./patch";
import { type Deflection, type Mesh, meshParts } from "./tessellate";

/** How many vertices a store keeps before it forgets the faces that were asked for longest ago. */
const MOST = 2_000_000;

/**
 * Meshes shapes, and meshes again only those of their faces that it has not met. An edit leaves most faces of a part
 * just where they were, to the last digit, though they are made anew.
 */
export class MeshStore {
  private readonly patches = new Map<string, Patch>();
  private vertices = 0;
  /** The last mesh of each shape that is there: a piece and the body that is made of it are one shape. */
  private readonly whole = new WeakMap<object, { mesh: Mesh; linear: number; angular: number }>();

  /** @param most how many vertices it keeps. */
  constructor(private readonly most = MOST) {}

  /** How many faces have been meshed, and how many were known: for tests and for the bench. */
  readonly count = { meshed: 0, known: 0 };

  /** The mesh of a shape, as `tessellate` makes it. */
  mesh(shape: Shape, deflection: Deflection): Mesh {
    const last = this.whole.get(identityOf(shape));
    if (last && last.linear === deflection.linear && last.angular === deflection.angular) {
      this.count.known += incidenceOf(shape).faces.length;
      return last.mesh;
    }
    const mesh = this.made(shape, deflection);
    this.whole.set(identityOf(shape), { mesh, ...deflection });
    return mesh;
  }

  private made(shape: Shape, deflection: Deflection): Mesh {
    const structure = incidenceOf(shape);
    const keys = structure.faces.map((face) => keyOf(structure, face, deflection));
    const fresh = new Map<number, Patch>();
    const missing: number[] = [];
    structure.faces.forEach((face, place) => {
      if (this.patches.has(keys[place]!)) return;
      const flat = flatPatch(structure, face);
      if (flat) fresh.set(place, flat);
      else missing.push(place);
    });
    const add = (places: readonly number[]) => {
      for (const [place, patch] of meshPatches(shape, structure, places, deflection)) fresh.set(place, patch);
    };
    add(missing);
    const patches = () => keys.map((key, place) => fresh.get(place) ?? this.used(key));
    let all = patches();
    if (missing.length < keys.length && !meet(structure, all)) {
      add(keys.map((_, place) => place));
      all = patches();
    }
    this.count.meshed += fresh.size;
    this.count.known += keys.length - fresh.size;
    for (const [place, patch] of fresh) this.keep(keys[place]!, patch);
    this.forget();
    return assembled(structure, all);
  }

  private keep(key: string, patch: Patch): void {
    this.vertices += (patch.positions.length - (this.patches.get(key)?.positions.length ?? 0)) / 3;
    this.patches.delete(key);
    this.patches.set(key, patch);
  }

  /** A patch, put last in the order of use. */
  private used(key: string): Patch {
    const patch = this.patches.get(key)!;
    this.patches.delete(key);
    this.patches.set(key, patch);
    return patch;
  }

  private forget(): void {
    for (const [key, patch] of this.patches) {
      if (this.vertices <= this.most || this.patches.size === 1) return;
      this.vertices -= patch.positions.length / 3;
      this.patches.delete(key);
    }
  }
}

/**
 * All that the mesh of a face depends on: its surface, its edges as they run round it, and how finely it is meshed. Not which way
 * round it lies: two pieces have the two sides of the face that parts them.
 */
function keyOf({ edges, vertices }: Structure, face: FaceStructure, { linear, angular }: Deflection): string {
  const digest = new Digest().numbers(linear, angular, face.bounds ? 1 : 0);
  addRecord(digest, face.surface);
  for (const wire of face.wires) {
    digest.numbers(wire.length);
    for (const use of wire) {
      const { curve, vertices: ends } = edges[use.edge]!;
      digest.numbers(use.way, use.bounds ? 1 : 0);
      for (const end of ends) digest.list(vertices[end]!.at);
      addRun(digest, curve);
      addRun(digest, face.image(use));
    }
  }
  return digest.value;
}

function addRun(digest: Digest, run: { curve: Curve; from: number; to: number } | null): void {
  if (!run) return void digest.text("none");
  digest.numbers(run.from, run.to);
  addRecord(digest, run.curve);
}

/** Adds every number of a curve or surface. */
function addRecord(digest: Digest, record: object | null): void {
  for (const value of Object.values(record ?? {}))
    if (typeof value === "number") digest.numbers(value);
    else if (typeof value === "string") digest.text(value);
    else if (Array.isArray(value)) digest.list(value);
}

/** Meshes some of a shape's faces, by place, and takes them apart. */
function meshPatches(
  shape: Shape,
  { faces }: Structure,
  places: readonly number[],
  deflection: Deflection,
): Map<number, Patch> {
  if (places.length === 0) return new Map();
  return scoped((scope) => {
    const handles = places.map((place) => facesOf(shape)[place]!);
    const part = places.length === faces.length ? shape : scope.use(compound(handles));
    const mesh = meshParts(part, handles, edgeHandles(shape), deflection);
    return new Map(places.map((place, i) => [place, patchOf(mesh, i, faces[place]!)]));
  });
}

function patchOf({ positions, normals, indices, faceRanges, lines, edgeRanges }: Mesh, i: number, face: FaceStructure) {
  const [first, count] = [faceRanges[2 * i]!, faceRanges[2 * i + 1]!];
  const own = indices.slice(first, first + count);
  let [low, high] = [Number.POSITIVE_INFINITY, -1];
  for (const index of own) {
    if (index < low) low = index;
    if (index > high) high = index;
  }
  const from = high < 0 ? 0 : low;
  for (let k = 0; k < own.length; k++) own[k]! -= from;
  return {
    forward: face.forward,
    positions: positions.slice(3 * from, 3 * (high + 1)),
    normals: normals.slice(3 * from, 3 * (high + 1)),
    indices: own,
    lines: face.wires.flat().map(({ edge }) => {
      const [start, length] = [edgeRanges[2 * edge]!, edgeRanges[2 * edge + 1]!];
      return lines.slice(3 * start, 3 * (start + length));
    }),
  };
}

/** How far apart the points of two faces may lie along an edge that they share, mm: a few units of single precision. */
const SAME = 1e-4;

/** Whether patches meet point for point along their edges. Where they do not, there would be cracks between them. */
function meet({ faces }: Structure, patches: readonly Patch[]): boolean {
  const lineOf: Float32Array[] = [];
  return patches.every((patch, place) =>
    faces[place]!.wires.flat().every(({ edge }, i) => {
      const line = patch.lines[i]!;
      lineOf[edge] ??= line;
      const other = lineOf[edge]!;
      return other.length === line.length && other.every((value, k) => Math.abs(value - line[k]!) <= SAME);
    }),
  );
}

/** Puts patches together to the mesh of a shape. */
function assembled({ faces, edges }: Structure, patches: readonly Patch[]): Mesh {
  const faceRanges = new Uint32Array(faces.length * 2);
  const indices = new Uint32Array(patches.reduce((sum, patch) => sum + patch.indices.length, 0));
  let [at, base] = [0, 0];
  const lineOf: Float32Array[] = [];
  patches.forEach((patch, place) => {
    faceRanges.set([at, patch.indices.length], 2 * place);
    const turned = patch.forward === faces[place]!.forward ? 0 : 1;
    for (let i = 0; i < patch.indices.length; i += 3) {
      indices[at + i] = patch.indices[i]! + base;
      indices[at + i + 1 + turned] = patch.indices[i + 1]! + base;
      indices[at + i + 2 - turned] = patch.indices[i + 2]! + base;
    }
    at += patch.indices.length;
    base += patch.positions.length / 3;
    faces[place]!.wires.flat().forEach(({ edge }, i) => {
      lineOf[edge] ??= patch.lines[i]!;
    });
  });
  const edgeRanges = new Uint32Array(edges.length * 2);
  let points = 0;
  const lines = edges.map((_, edge) => lineOf[edge] ?? new Float32Array());
  lines.forEach((line, edge) => {
    edgeRanges.set([points, line.length / 3], 2 * edge);
    points += line.length / 3;
  });
  return {
    positions: joined(patches.map((patch) => patch.positions)),
    normals: joined(
      patches.map(({ normals, forward }, place) =>
        forward === faces[place]!.forward ? normals : normals.map((value) => 0 - value),
      ),
    ),
    indices,
    faceRanges,
    lines: joined(lines),
    edgeRanges,
  };
}

function joined(parts: readonly Float32Array[]): Float32Array {
  const whole = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
