import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshStandardMaterial,
  type Plane,
  Points,
  PointsMaterial,
} from "three";
import { LineMaterial } from "three/addons/lines/LineMaterial.js";
import { LineSegments2 } from "three/addons/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/addons/lines/LineSegmentsGeometry.js";
import { computeBoundsTree, disposeBoundsTree } from "three-mesh-bvh";
import type { ViewMesh } from "@/engine/contract";
import type { ViewColours } from "./palette";

/** How a thing is drawn. */
export type Look = "body" | "cutter" | "ghost" | "clear";

export interface Style {
  look: Look;
  colour: string | null;
  hovered: boolean;
  picked: boolean;
}

/** One body or piece in the scene: faces, edges, bold seam lines, and a range that can light up. */
export class BodyObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial>;
  private readonly edges: LineSegments<BufferGeometry, LineBasicMaterial>;
  private readonly seams: LineSegments2 | null;
  private readonly lit: Mesh<BufferGeometry, MeshStandardMaterial>;
  private readonly litEdges: LineSegments2;
  private readonly litCorners: Points<BufferGeometry, PointsMaterial>;
  private hatch = { value: 0 };

  constructor(
    readonly id: string,
    readonly source: ViewMesh,
  ) {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(source.positions, 3));
    geometry.setAttribute("normal", new BufferAttribute(source.normals, 3));
    geometry.setIndex(new BufferAttribute(source.indices.slice(), 1));
    geometry.computeBoundingSphere();
    // Keeps the order of triangles, so that a hit can be told to be of a face.
    computeBoundsTree.call(geometry, { indirect: true } as never);
    this.mesh = new Mesh(geometry, this.faceMaterial());
    this.mesh.userData.object = this;

    const [plain, bold] = splitLines(source);
    const lines = new BufferGeometry();
    lines.setAttribute("position", new BufferAttribute(plain, 3));
    this.edges = new LineSegments(lines, new LineBasicMaterial({ transparent: true }));
    this.seams =
      bold.length > 0
        ? new LineSegments2(new LineSegmentsGeometry().setPositions(bold), new LineMaterial({ linewidth: 3 }))
        : null;

    const litGeometry = new BufferGeometry();
    litGeometry.setAttribute("position", geometry.getAttribute("position"));
    litGeometry.setAttribute("normal", geometry.getAttribute("normal"));
    litGeometry.setIndex(new BufferAttribute(source.indices.slice(), 1));
    litGeometry.setDrawRange(0, 0);
    this.lit = new Mesh(
      litGeometry,
      new MeshStandardMaterial({
        side: DoubleSide,
        roughness: 1,
        polygonOffset: true,
        polygonOffsetFactor: -1,
        polygonOffsetUnits: -1,
      }),
    );
    this.litEdges = new LineSegments2(
      new LineSegmentsGeometry(),
      new LineMaterial({ linewidth: 5, depthTest: false, transparent: true }),
    );
    this.litEdges.visible = false;
    this.litCorners = new Points(
      new BufferGeometry(),
      new PointsMaterial({ size: 11, sizeAttenuation: false, depthTest: false, transparent: true }),
    );
    this.litCorners.visible = false;
    this.group.add(this.mesh, this.edges, this.lit, this.litEdges, this.litCorners);
    if (this.seams) this.group.add(this.seams);
  }

  private faceMaterial(): MeshStandardMaterial {
    const material = new MeshStandardMaterial({
      side: DoubleSide,
      roughness: 0.85,
      metalness: 0.05,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    const { hatch } = this;
    // Cutters are hatched, as a drawing hatches.
    material.onBeforeCompile = (shader) => {
      shader.uniforms.uHatch = hatch;
      shader.fragmentShader = shader.fragmentShader
        .replace("#include <common>", "#include <common>\nuniform float uHatch;")
        .replace(
          "#include <dithering_fragment>",
          `#include <dithering_fragment>
           float band = fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0);
           if (uHatch > 0.5) gl_FragColor.a *= band < 0.22 ? 1.0 : 0.42;`,
        );
    };
    return material;
  }

  style({ look, colour, hovered, picked }: Style, colours: ViewColours, clip: Plane[]): void {
    const { material } = this.mesh;
    const base = new Color(colour ?? (look === "cutter" ? colours.cutter : colours.body));
    if (picked) base.lerp(new Color(colours.pick), 0.6);
    else if (hovered) base.lerp(new Color(colours.pick), 0.35);
    material.color = base;
    material.transparent = look !== "body";
    material.opacity =
      look === "ghost" ? (hovered ? 0.4 : 0.13) : look === "cutter" ? 0.6 : look === "clear" ? 0.38 : 1;
    material.depthWrite = look === "body";
    this.hatch.value = look === "cutter" ? 1 : 0;
    this.edges.material.color.set(colours.edge);
    this.edges.material.opacity = look === "ghost" ? 0.28 : look === "cutter" ? 0.7 : 0.9;
    this.lit.material.color.set(colours.pick);
    if (this.seams) {
      this.seams.material.color.set(colours.seam);
      this.seams.visible = look === "body" || look === "clear";
    }
    for (const part of [material, this.edges.material, this.lit.material, this.seams?.material])
      if (part) part.clippingPlanes = clip;
    this.group.renderOrder = look === "body" ? 0 : 1;
    for (const child of this.group.children) child.renderOrder = this.group.renderOrder;
    this.litEdges.material.color.set(colours.pick);
    this.litCorners.material.color.set(colours.pick);
    this.litEdges.renderOrder = 8;
    this.litCorners.renderOrder = 9;
  }

  /** Lights up faces, by place. */
  light(faces: readonly number[]): void {
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
  }

  /** Lights up edges by place and corners by where they are. */
  lightParts(edges: readonly number[], corners: readonly (readonly [number, number, number])[]): void {
    const positions = edges.flatMap((edge) => [...this.edgeLine(edge)]);
    this.litEdges.visible = positions.length > 0;
    if (positions.length > 0) {
      this.litEdges.geometry.dispose();
      this.litEdges.geometry = new LineSegmentsGeometry().setPositions(positions);
    }
    this.litCorners.visible = corners.length > 0;
    if (corners.length > 0)
      this.litCorners.geometry.setAttribute("position", new Float32BufferAttribute(corners.flat(), 3));
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

  resize(width: number, height: number): void {
    this.seams?.material.resolution.set(width, height);
    this.litEdges.material.resolution.set(width, height);
  }

  dispose(): void {
    disposeBoundsTree.call(this.mesh.geometry);
    for (const part of [this.mesh, this.edges, this.lit, this.seams, this.litEdges, this.litCorners]) {
      part?.geometry.dispose();
      part?.material.dispose();
    }
  }
}

/** Segments of ordinary edges and of seam lines. */
function splitLines({ lines, edgeRanges, seams }: ViewMesh): [Float32Array, Float32Array] {
  const parts: [number[], number[]] = [[], []];
  for (let edge = 0; edge * 2 < edgeRanges.length; edge++) {
    const first = edgeRanges[edge * 2]!;
    const count = edgeRanges[edge * 2 + 1]!;
    const into = parts[seams[edge] ? 1 : 0]!;
    for (let i = first * 3; i < (first + count) * 3; i++) into.push(lines[i]!);
  }
  return [new Float32Array(parts[0]), new Float32Array(parts[1])];
}
