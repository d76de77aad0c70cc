import {
  BufferAttribute,
  BufferGeometry,
  Float32BufferAttribute,
  Group,
  type LineBasicMaterial,
  LineSegments,
  Mesh,
  type MeshStandardMaterial,
  type Object3D,
  Points,
  type PointsMaterial,
  type Raycaster,
  Vector3,
} from "three";
import { LineSegments2 } from "three/addons/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/addons/lines/LineSegmentsGeometry.js";
import { acceleratedRaycast, computeBoundsTree, disposeBoundsTree } from "three-mesh-bvh";
import type { Band } from "@/core/check";
import type { ViewMesh } from "@/engine/contract";
import type { Style, ViewMaterials } from "./view-materials";

/** One body or piece in the scene: faces, edges, bold seam lines, and a range that can light up. */
export class BodyObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial>;
  /** Segments of its ordinary edges, and of its seam lines. */
  readonly lines: { plain: Float32Array; bold: Float32Array };
  // Most bodies are drawn with others: what draws one by itself is made when it is.
  private edges: LineSegments<BufferGeometry, LineBasicMaterial> | null = null;
  private seams: LineSegments2 | null = null;
  // Most bodies are never lit: what lights them up is made when they are.
  private lit: Mesh<BufferGeometry, MeshStandardMaterial> | null = null;
  private litFaces = "";
  private litEdges: LineSegments2 | null = null;
  private litCorners: Points<BufferGeometry, PointsMaterial> | null = null;

  constructor(
    readonly id: string,
    readonly source: ViewMesh,
    private readonly materials: ViewMaterials,
  ) {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(source.positions, 3));
    geometry.setAttribute("normal", new BufferAttribute(source.normals, 3));
    geometry.setIndex(new BufferAttribute(source.indices, 1));
    const style: Style = { look: "body", colour: null, hovered: false, picked: false };
    this.mesh = new Mesh(geometry, materials.face(style));
    this.mesh.userData.object = this;
    this.mesh.visible = false;
    // What the pointer is over is found by a tree over the triangles, which is made when it comes near for the first time.
    this.mesh.raycast = (ray, hits) => {
      if (!geometry.boundsTree && nearSphere(this.mesh, ray))
        // Keeps the order of triangles, so that a hit can be told to be of a face.
        computeBoundsTree.call(geometry, { indirect: true } as never);
      if (geometry.boundsTree) acceleratedRaycast.call(this.mesh, ray, hits);
    };
    this.lines = splitLines(source);
    this.group.matrixAutoUpdate = false;
    this.add(this.mesh);
  }

  /** Puts a part into the group, in which it never moves. */
  private add(part: Object3D): void {
    part.matrixAutoUpdate = false;
    this.group.add(part);
  }

  /** The middle of the body, or the middle triangle of one of its faces. */
  middleOf(face: number | null): Vector3 {
    const { positions, indices, faceRanges } = this.source;
    if (face === null || faceRanges[2 * face + 1] === undefined) {
      const { geometry } = this.mesh;
      if (!geometry.boundingBox) geometry.computeBoundingBox();
      return geometry.boundingBox!.getCenter(new Vector3()).add(this.group.position);
    }
    const first = faceRanges[2 * face]! + 3 * Math.floor(faceRanges[2 * face + 1]! / 6);
    const middle = new Vector3();
    for (let i = 0; i < 3; i++) middle.add(new Vector3().fromArray(positions, 3 * indices[first + i]!));
    return middle.multiplyScalar(1 / 3).add(this.group.position);
  }

  /** Moves the body off its place, mm. */
  moveTo(shift: readonly [number, number, number]): void {
    const { position } = this.group;
    if (position.x === shift[0] && position.y === shift[1] && position.z === shift[2]) return;
    position.set(...shift);
    this.group.updateMatrix();
    this.group.matrixWorldNeedsUpdate = true;
  }

  /** Draws it by itself. */
  style(style: Style): void {
    const { look } = style;
    this.mesh.visible = true;
    this.mesh.material = this.materials.face(style);
    this.edges ??= this.makeEdges();
    this.edges.visible = true;
    this.edges.material = this.materials.edge(look);
    if (this.lines.bold.length > 0) {
      this.seams ??= this.makeSeams();
      this.seams.visible = look === "body" || look === "clear";
    }
    const order = look === "body" ? 0 : 1;
    for (const part of [this.mesh, this.edges, this.seams, this.lit]) if (part) part.renderOrder = order;
  }

  /** It is drawn with others: of itself only what is lit. */
  drawnWithOthers(look: "body" | "ghost"): void {
    for (const part of [this.mesh, this.edges, this.seams]) if (part) part.visible = false;
    if (this.lit) this.lit.renderOrder = look === "body" ? 0 : 1;
    this.mesh.renderOrder = look === "body" ? 0 : 1;
  }

  private makeEdges(): LineSegments<BufferGeometry, LineBasicMaterial> {
    const geometry = new BufferGeometry().setAttribute("position", new BufferAttribute(this.lines.plain, 3));
    const edges = new LineSegments(geometry, this.materials.edge("body"));
    this.add(edges);
    return edges;
  }

  private makeSeams(): LineSegments2 {
    const seams = new LineSegments2(new LineSegmentsGeometry().setPositions(this.lines.bold), this.materials.seam);
    this.add(seams);
    return seams;
  }

  /** Draws its faces by a scale, from values for the corners of its mesh; after `style`. */
  paint(paint: { values: Float32Array; bands: readonly Band[] } | null): void {
    if (!paint) return;
    const { geometry } = this.mesh;
    if (geometry.getAttribute("paint")?.array !== paint.values)
      geometry.setAttribute("paint", new BufferAttribute(paint.values, 1));
    this.mesh.material = this.materials.painted(paint.bands);
  }

  /** Lights up faces, by place. */
  light(faces: readonly number[]): void {
    const key = faces.join(",");
    if (key === this.litFaces) return;
    this.litFaces = key;
    this.lit ??= this.makeLit();
    const { faceRanges, indices } = this.source;
    const total = faces.reduce((sum, face) => sum + (faceRanges[face * 2 + 1] ?? 0), 0);
    const index = this.lit.geometry.getIndex()!;
    const target = index.array as Uint32Array;
    let at = 0;
    for (const face of faces) {
      const first = faceRanges[face * 2] ?? 0;
      const count = faceRanges[face * 2 + 1] ?? 0;
      target.set(indices.subarray(first, first + count), at);
      at += count;
    }
    index.needsUpdate = true;
    this.lit.geometry.setDrawRange(0, total);
    this.lit.visible = total > 0;
  }

  private makeLit(): Mesh<BufferGeometry, MeshStandardMaterial> {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", this.mesh.geometry.getAttribute("position"));
    geometry.setAttribute("normal", this.mesh.geometry.getAttribute("normal"));
    geometry.setIndex(new BufferAttribute(this.source.indices.slice(), 1));
    const lit = new Mesh(geometry, this.materials.lit);
    lit.renderOrder = this.mesh.renderOrder;
    this.add(lit);
    return lit;
  }

  /** Lights up edges by place and corners by where they are. */
  lightParts(edges: readonly number[], corners: readonly (readonly [number, number, number])[]): void {
    const positions = edges.flatMap((edge) => [...this.edgeLine(edge)]);
    if (positions.length > 0) {
      if (!this.litEdges) {
        this.litEdges = new LineSegments2(new LineSegmentsGeometry(), this.materials.litEdge);
        this.litEdges.renderOrder = 8;
        this.add(this.litEdges);
      }
      this.litEdges.geometry.dispose();
      this.litEdges.geometry = new LineSegmentsGeometry().setPositions(positions);
    }
    if (this.litEdges) this.litEdges.visible = positions.length > 0;
    if (corners.length > 0) {
      if (!this.litCorners) {
        this.litCorners = new Points(new BufferGeometry(), this.materials.litCorner);
        this.litCorners.renderOrder = 9;
        this.add(this.litCorners);
      }
      this.litCorners.geometry.setAttribute("position", new Float32BufferAttribute(corners.flat(), 3));
    }
    if (this.litCorners) this.litCorners.visible = corners.length > 0;
  }

  /** The segments of an edge's line, xyz pairs. */
  edgeLine(edge: number): Float32Array {
    const { lines, edgeRanges } = this.source;
    const first = edgeRanges[edge * 2]! * 3;
    return lines.subarray(first, first + edgeRanges[edge * 2 + 1]! * 3);
  }

  /** The face that a triangle belongs to. */
  faceOf(triangle: number): number {
    const { faceRanges } = this.source;
    const at = triangle * 3;
    for (let face = 0; face * 2 < faceRanges.length; face++)
      if (at >= faceRanges[face * 2]! && at < faceRanges[face * 2]! + faceRanges[face * 2 + 1]!) return face;
    return -1;
  }

  dispose(): void {
    disposeBoundsTree.call(this.mesh.geometry);
    for (const part of [this.mesh, this.edges, this.lit, this.seams, this.litEdges, this.litCorners])
      part?.geometry.dispose();
  }
}

/** Whether a ray passes a mesh so near that it may hit it. */
function nearSphere(mesh: Mesh, { ray }: Raycaster): boolean {
  if (!mesh.geometry.boundingSphere) mesh.geometry.computeBoundingSphere();
  const sphere = mesh.geometry.boundingSphere!.clone().applyMatrix4(mesh.matrixWorld);
  return ray.intersectsSphere(sphere);
}

/** Segments of ordinary edges and of seam lines. */
function splitLines({ lines, edgeRanges, seams }: ViewMesh): { plain: Float32Array; bold: Float32Array } {
  const sizes = [0, 0];
  for (let edge = 0; edge * 2 < edgeRanges.length; edge++) sizes[seams[edge] ? 1 : 0]! += edgeRanges[edge * 2 + 1]! * 3;
  const parts = [new Float32Array(sizes[0]!), new Float32Array(sizes[1]!)] as const;
  const at = [0, 0];
  for (let edge = 0; edge * 2 < edgeRanges.length; edge++) {
    const first = edgeRanges[edge * 2]! * 3;
    const which = seams[edge] ? 1 : 0;
    const mine = lines.subarray(first, first + edgeRanges[edge * 2 + 1]! * 3);
    parts[which].set(mine, at[which]);
    at[which]! += mine.length;
  }
  return { plain: parts[0], bold: parts[1] };
}
