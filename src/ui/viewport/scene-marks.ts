import {
  BufferGeometry,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineLoop,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
} from "three";

/** A workplane's square of 2 by 2, its rim, and a short line to its front. Its group is sized, for the eye only, and coloured. */
export function makePlane(): Group {
  const group = new Group();
  const square = new Mesh(
    new PlaneGeometry(2, 2),
    new MeshBasicMaterial({ transparent: true, opacity: 0.13, side: DoubleSide, depthWrite: false }),
  );
  square.renderOrder = 2;
  const rim = new LineLoop(
    loopGeometry([
      [-1, -1, 0],
      [1, -1, 0],
      [1, 1, 0],
      [-1, 1, 0],
    ]),
    new LineBasicMaterial(),
  );
  const arrow = new LineLoop(
    loopGeometry([
      [-1, -1, 0],
      [-1, -1, 0.16],
    ]),
    new LineBasicMaterial(),
  );
  group.add(square, rim, arrow);
  return group;
}

type PlanePart = Mesh<BufferGeometry, MeshBasicMaterial> | LineLoop<BufferGeometry, LineBasicMaterial>;

export function colourPlane(group: Group, colour: string): void {
  for (const part of group.children as PlanePart[]) part.material.color.set(colour);
}

export function disposePlane(group: Group): void {
  for (const { geometry, material } of group.children as PlanePart[]) {
    geometry.dispose();
    material.dispose();
  }
}

/** The colour of what is wrong: of places and lines. */
export const FAULT = "#a11b1b";

/** A ring with a cross: "here". */
export function makeMarker(): Group {
  const group = new Group();
  const material = new LineBasicMaterial({ color: FAULT, depthTest: false });
  const ring = Array.from({ length: 24 }, (_, i): [number, number, number] => [
    Math.cos((i * Math.PI) / 12),
    Math.sin((i * Math.PI) / 12),
    0,
  ]);
  for (const loop of [
    ring,
    [
      [-1.5, 0, 0],
      [1.5, 0, 0],
    ],
    [
      [0, -1.5, 0],
      [0, 1.5, 0],
    ],
  ] as [number, number, number][][]) {
    const line = new LineLoop(loopGeometry(loop), material);
    line.renderOrder = 10;
    group.add(line);
  }
  group.visible = false;
  return group;
}

function loopGeometry(points: [number, number, number][]): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new Float32BufferAttribute(points.flat(), 3));
  return geometry;
}
