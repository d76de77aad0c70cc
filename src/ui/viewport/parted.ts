import { type Color, DoubleSide, Group, Mesh, MeshStandardMaterial, Plane, Vector3 } from "three";
import type { BodyObject } from "./body-object";

/** One side of a body that a plane parts: how it is drawn there. */
export interface PartedSide {
  object: BodyObject;
  colour: Color;
  opacity: number;
  origin: readonly [number, number, number];
  /** Looks to the side that is drawn. */
  normal: readonly [number, number, number];
  shift: readonly [number, number, number];
}

/**
 * Bodies as triangles, each side of a plane by itself, while what is exact is still being worked out: the graphics card leaves out what lies
 * beyond. What is seen of the inside stands for the cut.
 */
export class PartedBodies {
  readonly group = new Group();
  private drawn: { mesh: Mesh<BodyObject["mesh"]["geometry"], MeshStandardMaterial>; plane: Plane }[] = [];

  show(sides: readonly PartedSide[], section: readonly Plane[]): void {
    while (this.drawn.length > sides.length) {
      const { mesh } = this.drawn.pop()!;
      mesh.material.dispose();
      this.group.remove(mesh);
    }
    sides.forEach(({ object, colour, opacity, origin, normal, shift }, i) => {
      const { mesh, plane } = this.drawn[i] ?? this.another();
      mesh.geometry = object.mesh.geometry;
      mesh.position.set(...shift);
      plane.setFromNormalAndCoplanarPoint(new Vector3(...normal), new Vector3(...origin).add(mesh.position));
      const { material } = mesh;
      material.color.copy(colour);
      material.opacity = opacity;
      material.transparent = opacity < 1;
      material.depthWrite = opacity === 1;
      material.clippingPlanes = [plane, ...section];
    });
  }

  private another() {
    const material = new MeshStandardMaterial({ side: DoubleSide, roughness: 0.85, metalness: 0.05 });
    const mesh: (typeof this.drawn)[number]["mesh"] = new Mesh(undefined, material);
    // Clicks go to the bodies as they were.
    mesh.raycast = () => {};
    this.group.add(mesh);
    const made = { mesh, plane: new Plane() };
    this.drawn.push(made);
    return made;
  }

  dispose(): void {
    this.show([], []);
  }
}
