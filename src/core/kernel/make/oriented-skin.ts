import type { TopAbs_Orientation } from "replicad-opencascadejs";
import { volumeOf } from "../facts/mass";
import { incidenceOf } from "../library/incidence";
import { scoped } from "../library/scope";
import { asFace, facesOf, freeShape, type Orientation, orientation, type Shape, shellOf } from "../library/topology";
import { solidFromFaces } from "./solid-from-faces";

/** Faces put together, and where each face of the result came from, by place. */
export interface OrientedSkin {
  /** A solid where the faces close, else a sheet. It belongs to the caller. */
  shape: Shape;
  closed: boolean;
  order: number[];
}

/**
 * Faces that share edges as one skin, each turned so that it looks to the side that its neighbours do: where they close, outwards.
 * @param faces the first of them says which side that is. @param signs how the faces that are known to look right do so already.
 */
export function orientedSkin(faces: readonly Shape[], signs: readonly Orientation[]): OrientedSkin {
  return scoped((scope) => {
    const plain = faces.map((face) => scope.use(asFace(scope, face).Oriented(FORWARD)));
    const skin = scope.use(shellOf(plain));
    const { faces: parts, edges } = incidenceOf(skin);
    const turned = spreadSigns(
      signs,
      parts.map(({ wires }) =>
        wires.flat().flatMap(({ edge, way, bounds }) => (bounds && !edges[edge]!.point ? [{ edge, way }] : [])),
      ),
    );
    const closed = edges.every(({ uses, point }) => point || uses === 2);
    if (!closed) {
      const oriented = plain.map((face, i) => scope.use(face.Oriented(turned[i] === -1 ? REVERSED : FORWARD)));
      return { shape: shellOf(oriented), closed, order: faces.map((_, i) => i) };
    }
    const solid = (sense: 1 | -1) =>
      solidFromFaces(plain.map((shape, i) => ({ shape, sign: (turned[i]! * sense) as Orientation })));
    const made = solid(1);
    if (volumeOf(made.shape) >= 0) return { ...made, closed };
    freeShape(made.shape);
    return { ...solid(-1), closed };
  });
}

const FORWARD = "TopAbs_FORWARD" as TopAbs_Orientation;
const REVERSED = "TopAbs_REVERSED" as TopAbs_Orientation;

/** The sense of every face, from those that are known: along an edge two neighbours run against each other. */
function spreadSigns(signs: readonly Orientation[], uses: readonly { edge: number; way: number }[][]): (1 | -1)[] {
  const found: (1 | -1 | 0)[] = uses.map((_, i) => signs[i] ?? 0);
  const at = new Map<number, { face: number; way: number }[]>();
  uses.forEach((list, face) => {
    for (const { edge, way } of list) at.set(edge, [...(at.get(edge) ?? []), { face, way }]);
  });
  const queue = found.flatMap((sign, i) => (sign === 0 ? [] : [i]));
  while (queue.length > 0) {
    const face = queue.pop()!;
    for (const { edge, way } of uses[face]!)
      for (const other of at.get(edge)!)
        if (found[other.face] === 0) {
          found[other.face] = (-found[face]! * way * other.way) as 1 | -1;
          queue.push(other.face);
        }
  }
  return found.map((sign) => (sign === 0 ? 1 : sign));
}

/** The solid that a sheet closed all round holds; null where it is open, or several skins. It belongs to the caller. */
export function solidOfSheet(sheet: Shape): OrientedSkin | null {
  const { edges, shells } = incidenceOf(sheet);
  if (shells.length !== 1 || !edges.every(({ uses, point }) => point || uses === 2)) return null;
  return orientedSkin(facesOf(sheet), facesOf(sheet).map(orientation));
}
