import type { TopAbs_Orientation } from "replicad-opencascadejs";
import { Groups } from "../../groups";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asFace, type Orientation, occurrences, type Shape, ShapeMap } from "../library/topology";

/**
 * Builds a solid from faces that close it, each oriented outwards; shells are found by the edges they share.
 * The caller frees it. `order` tells where each face of the result came from.
 */
export function solidFromFaces(faces: readonly { shape: Shape; sign: Orientation }[]): {
  shape: Shape;
  order: number[];
} {
  return scoped((scope) => {
    const oc = lib();
    const builder = scope.use(new oc.TopoDS_Builder());
    const solid = new oc.TopoDS_Solid();
    builder.MakeSolid(solid);
    const order: number[] = [];
    for (const group of connected(faces.map((face) => face.shape))) {
      const shell = scope.use(new oc.TopoDS_Shell());
      builder.MakeShell(shell);
      for (const place of group) {
        const { shape, sign } = faces[place]!;
        const sense = (sign === 1 ? "TopAbs_FORWARD" : "TopAbs_REVERSED") as TopAbs_Orientation;
        builder.Add(shell, scope.use(asFace(scope, shape).Oriented(sense)));
        order.push(place);
      }
      shell.Closed(true);
      builder.Add(solid, shell);
    }
    return { shape: solid, order };
  });
}

/** Groups faces (by place) that hang together by shared edges. */
function connected(faces: readonly Shape[]): number[][] {
  return scoped((scope) => {
    const groups = new Groups(faces.length);
    const first = new ShapeMap<number>();
    faces.forEach((face, i) => {
      for (const edge of occurrences(scope, face, "edge")) {
        const other = first.get(edge);
        if (other === undefined) first.set(edge, i);
        else groups.join(i, other);
      }
    });
    return groups.all();
  });
}
