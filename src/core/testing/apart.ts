import { distance, type Shape } from "../kernel";
import { readPoint } from "../kernel/facts/measure";
import { edgeHandles, incidenceOf } from "../kernel/library/incidence";
import { lib } from "../kernel/library/library";
import { scoped } from "../kernel/library/scope";
import { asFace, facesOf } from "../kernel/library/topology";

/** By how much edges and their images are apart at the same parameter, at most, by the library's own points; and beyond what is noted of them. */
export function apart(shape: Shape, places = 37): { most: number; beyond: number } {
  const oc = lib();
  let [most, beyond] = [0, 0];
  scoped((scope) => {
    incidenceOf(shape).edges.forEach((edge, e) => {
      if (edge.point || !edge.curve) return;
      const handle = edgeHandles(shape)[e]!;
      const along = scope.use(new oc.BRepAdaptor_Curve(handle));
      const [from, to] = [along.FirstParameter(), along.LastParameter()];
      for (const face of edge.faces) {
        const image = scope.use(new oc.BRepAdaptor_Curve(handle, asFace(scope, facesOf(shape)[face]!)));
        for (let k = 0; k <= places; k++) {
          const t = from + ((to - from) * k) / places;
          const off = distance(readPoint(scope, along.Value(t)), readPoint(scope, image.Value(t)));
          most = Math.max(most, off);
          beyond = Math.max(beyond, off - 1.1 * edge.tolerance);
        }
      }
    });
  });
  return { most, beyond };
}
