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

/** A workplane's square, its rim, and a short line to its front. Sized for the eye only. */
export function makePlane(half: number, colour: string): Group {
  const group = new Group();
  const square = new Mesh(
    new PlaneGeometry(2 * half, 2 * half),
    new MeshBasicMaterial({ color: colour, transparent: true, opacity: 0.13, side: DoubleSide, depthWrite: false }),
  );
  square.renderOrder = 2;
  const rim = new LineLoop(
    loopGeometry([
      [-half, -half, 0],
      [half, -half, 0],
      [half, half, 0],
      [-half, half, 0],
    ]),
    new LineBasicMaterial({ color: colour }),
  );
  const arrow = new LineLoop(
    loopGeometry([
      [-half, -half, 0],
      [-half, -half, half * 0.16],
    ]),
    new LineBasicMaterial({ color: colour }),
  );
  group.add(square, rim, arrow);
  return group;
}

/** A ring with a cross: "here". */
export function makeMarker(): Group {
  const group = new Group();
  const material = new LineBasicMaterial({ color: "#a11b1b", depthTest: false });
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
