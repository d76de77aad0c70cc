import { BufferAttribute, BufferGeometry, Group, LineSegments, Mesh } from "three";
import { LineSegments2 } from "three/addons/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/addons/lines/LineSegmentsGeometry.js";
import type { BodyObject } from "./body-object";
import type { Tint, ViewMaterials } from "./view-materials";

type Shift = readonly [number, number, number];

/** A body that is drawn together with others. */
export interface Member {
  object: BodyObject;
  look: "body" | "ghost";
  tint: Tint;
  /** Off its place, mm. */
  shift: Shift;
}

/** Where a member's corners and line ends stand among those of all. */
interface Place {
  vertex: number;
  line: number;
  shift: Shift;
  tint: string;
}

/** What of a member has more corners than this is drawn by itself: for so large a one a call of its own is nothing. */
export const MOST_VERTICES = 5000;

const LOOKS = ["body", "ghost"] as const;

/**
 * Bodies drawn as one: the graphics card is asked for the faces of all that are closed to view, then for their edges, for their
 * seam lines and for the ghosts, whether they are two or five hundred. Corners of all share their buffers; which are drawn, and
 * how, is said by the order of their numbers, so that a fate or a pull writes little anew.
 */
export class Batch {
  readonly group = new Group();
  private objects: readonly BodyObject[] = [];
  private readonly places = new Map<BodyObject, Place>();
  private looks = "";
  private position = new BufferAttribute(new Float32Array(), 3);
  private normal = new BufferAttribute(new Float32Array(), 3);
  private colour = new BufferAttribute(new Float32Array(), 4);
  private line = new BufferAttribute(new Float32Array(), 3);
  private drawn: { faces: Mesh; edges: LineSegments }[] = [];
  private seams: LineSegments2 | null = null;

  constructor(private readonly materials: ViewMaterials) {}

  show(members: readonly Member[]): void {
    const others =
      members.length !== this.objects.length || members.some(({ object }, i) => object !== this.objects[i]);
    if (others) this.gather(members);
    const moved = this.move(members);
    this.tint(members);
    const looks = members.map(({ look }) => look[0]).join("");
    const changed = others || looks !== this.looks;
    this.looks = looks;
    if (changed) this.number(members);
    if (changed || moved) this.drawSeams(members);
    // The materials are given up with the colours of a theme.
    this.drawn.forEach(({ faces, edges }, i) => {
      faces.material = this.materials.together(LOOKS[i]!);
      edges.material = this.materials.edge(LOOKS[i]!);
    });
  }

  /** Room for the corners and line ends of all. */
  private gather(members: readonly Member[]): void {
    this.clear();
    this.objects = members.map(({ object }) => object);
    let [vertex, line] = [0, 0];
    for (const { object } of members) {
      // Not a number: written when it is placed for the first time.
      this.places.set(object, { vertex, line, shift: [Number.NaN, 0, 0], tint: "" });
      vertex += object.source.positions.length / 3;
      line += object.lines.plain.length / 3;
    }
    this.position = new BufferAttribute(new Float32Array(3 * vertex), 3);
    this.normal = new BufferAttribute(new Float32Array(3 * vertex), 3);
    this.colour = new BufferAttribute(new Float32Array(4 * vertex), 4);
    this.line = new BufferAttribute(new Float32Array(3 * line), 3);
    for (const { object } of members) this.normal.array.set(object.source.normals, 3 * this.places.get(object)!.vertex);
    if (vertex === 0) return;
    this.drawn = LOOKS.map((look, order) => {
      const faces = new Mesh(
        new BufferGeometry()
          .setAttribute("position", this.position)
          .setAttribute("normal", this.normal)
          .setAttribute("color", this.colour),
        this.materials.together(look),
      );
      const edges = new LineSegments(
        new BufferGeometry().setAttribute("position", this.line),
        this.materials.edge(look),
      );
      for (const part of [faces, edges]) {
        part.renderOrder = order;
        part.frustumCulled = false;
        part.matrixAutoUpdate = false;
        this.group.add(part);
      }
      return { faces, edges };
    });
  }

  /** @returns whether anything stands elsewhere now. */
  private move(members: readonly Member[]): boolean {
    let moved = false;
    for (const { object, shift } of members) {
      const place = this.places.get(object)!;
      if (place.shift.every((value, axis) => value === shift[axis])) continue;
      place.shift = shift;
      moved = true;
      put(this.position.array as Float32Array, 3 * place.vertex, object.source.positions, shift);
      put(this.line.array as Float32Array, 3 * place.line, object.lines.plain, shift);
    }
    if (moved) {
      this.position.needsUpdate = true;
      this.line.needsUpdate = true;
    }
    return moved;
  }

  private tint(members: readonly Member[]): void {
    for (const { object, tint } of members) {
      const place = this.places.get(object)!;
      const key = `${tint.colour.getHex()} ${tint.opacity}`;
      if (place.tint === key) continue;
      place.tint = key;
      const { r, g, b } = tint.colour;
      const colours = this.colour.array;
      const [first, count] = [place.vertex, object.source.positions.length / 3];
      for (let at = 4 * first; at < 4 * (first + count); at += 4) {
        colours[at] = r;
        colours[at + 1] = g;
        colours[at + 2] = b;
        colours[at + 3] = tint.opacity;
      }
      this.colour.addUpdateRange(4 * first, 4 * count);
      this.colour.needsUpdate = true;
    }
  }

  /** Which triangles and lines are drawn in which way. */
  private number(members: readonly Member[]): void {
    this.drawn.forEach(({ faces, edges }, i) => {
      const mine = members.filter(({ look }) => look === LOOKS[i]);
      const triangles = new Uint32Array(mine.reduce((sum, { object }) => sum + object.source.indices.length, 0));
      const ends = new Uint32Array(mine.reduce((sum, { object }) => sum + object.lines.plain.length / 3, 0));
      let [at, end] = [0, 0];
      for (const { object } of mine) {
        const { vertex, line } = this.places.get(object)!;
        for (const index of object.source.indices) triangles[at++] = vertex + index;
        for (let k = 0; k < object.lines.plain.length / 3; k++) ends[end++] = line + k;
      }
      faces.geometry.setIndex(new BufferAttribute(triangles, 1));
      edges.geometry.setIndex(new BufferAttribute(ends, 1));
      faces.visible = triangles.length > 0;
      edges.visible = ends.length > 0;
    });
  }

  /** Bold lines are of bodies that are not seen through. */
  private drawSeams(members: readonly Member[]): void {
    const mine = members.filter(({ object, look }) => look === "body" && object.lines.bold.length > 0);
    const ends = new Float32Array(mine.reduce((sum, { object }) => sum + object.lines.bold.length, 0));
    let at = 0;
    for (const { object, shift } of mine) {
      put(ends, at, object.lines.bold, shift);
      at += object.lines.bold.length;
    }
    const before = this.seams?.geometry.getAttribute("instanceStart");
    if (before && "data" in before && before.data.array.length === ends.length) {
      before.data.array.set(ends);
      before.data.needsUpdate = true;
      return;
    }
    this.dropSeams();
    if (ends.length === 0) return;
    this.seams = new LineSegments2(new LineSegmentsGeometry().setPositions(ends), this.materials.seam);
    this.seams.frustumCulled = false;
    this.group.add(this.seams);
  }

  private dropSeams(): void {
    if (!this.seams) return;
    this.group.remove(this.seams);
    this.seams.geometry.dispose();
    this.seams = null;
  }

  private clear(): void {
    this.dropSeams();
    for (const { faces, edges } of this.drawn)
      for (const part of [faces, edges]) {
        this.group.remove(part);
        part.geometry.dispose();
      }
    this.drawn = [];
    this.places.clear();
  }

  dispose(): void {
    this.clear();
    this.objects = [];
  }
}

/** Writes points, moved. */
function put(into: Float32Array, at: number, points: Float32Array, [x, y, z]: Shift): void {
  for (let i = 0; i < points.length; i += 3) {
    into[at + i] = points[i]! + x;
    into[at + i + 1] = points[i + 1]! + y;
    into[at + i + 2] = points[i + 2]! + z;
  }
}
