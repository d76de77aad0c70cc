import { edgeHandles, incidenceOf } from "../library/incidence";
import { facesOf, type Shape } from "../library/topology";
import { dot, unit } from "../space/vectors";
import { inwardsFrom } from "./at-edge";
import { normalNear } from "./distance";

/** How two faces of a solid meet along an edge: outwards as at a block's corner, inwards as at a pocket's floor, or without an edge to be seen. */
type Bend = "outwards" | "inwards" | "smooth";

interface Meeting {
  faces: [number, number];
  bend: Bend;
}

/** Sine of the angle between faces up to which they run on smoothly: 0.08 degrees. */
const SMOOTH = 1.4e-3;

const known = new WeakMap<Shape, Meeting[]>();

/** How the faces of a solid, by place, meet along each edge that two of them share, in its middle. */
export function meetingsOf(shape: Shape): Meeting[] {
  let meetings = known.get(shape);
  if (!meetings) {
    const faces = facesOf(shape);
    const handles = edgeHandles(shape);
    meetings = incidenceOf(shape).edges.flatMap(({ faces: sides, point }, place): Meeting[] => {
      const [one, other] = sides;
      if (point || one === undefined || other === undefined || one === other) return [];
      const [into] = inwardsFrom(faces[other]!, handles[place]!, [0.5]);
      if (!into) return [];
      const rise = dot(unit(normalNear(faces[one]!, into.at)), into.into);
      const bend = Math.abs(rise) < SMOOTH ? "smooth" : rise < 0 ? "outwards" : "inwards";
      return [{ faces: [one, other], bend }];
    });
    known.set(shape, meetings);
  }
  return meetings;
}

/** Faces of a solid, by place, with all that run smoothly on from them, across one edge after another. */
export function withSmoothOn(shape: Shape, places: readonly number[]): number[] {
  const found = new Set(places);
  const queue = [...found];
  while (queue.length > 0) {
    const from = queue.pop()!;
    for (const { faces, bend } of meetingsOf(shape)) {
      if (bend !== "smooth" || !faces.includes(from)) continue;
      const to = faces[0] === from ? faces[1] : faces[0];
      if (found.has(to)) continue;
      found.add(to);
      queue.push(to);
    }
  }
  return [...found];
}
