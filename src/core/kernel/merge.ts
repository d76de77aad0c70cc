import { imagesOf, WEIGHING } from "./fuse";
import { lib } from "./library";
import { areaOf, quickVolume } from "./mass";
import { openEdges } from "./measure";
import { scoped } from "./scope";
import { facesOf, freeShape, listOf, ownHandle, type Shape, ShapeMap, shapeKind, subshapes } from "./topology";
import type { Vec3 } from "./vectors";

export interface Merged {
  shape: Shape;
  /** For each face of the result, the faces of the input (by place) that it was made from. */
  sources: number[][];
}

/**
 * Merges neighbouring faces that lie on one surface, with history. The library keeps history only through an
 * algorithm with two arguments, so a lone vertex far away stands in as the second. A merge that opens the skin or
 * changes what it holds is thrown away: better a line too many than a hole.
 * @returns null when there was nothing to merge, or no merge that is sound.
 */
export function mergeFaces(shape: Shape, faraway: Vec3): Merged | null {
  return tryMerge(shape, faraway, true) ?? tryMerge(shape, faraway, false);
}

function tryMerge(shape: Shape, faraway: Vec3, edgesToo: boolean): Merged | null {
  return scoped((scope) => {
    const oc = lib();
    const at = scope.use(new oc.gp_Pnt(...(faraway as [number, number, number])));
    const vertex = scope.use(scope.use(new oc.BRepBuilderAPI_MakeVertex(at)).Vertex());
    const algorithm = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
    algorithm.SetArguments(listOf(scope, [shape, vertex]));
    algorithm.SetNonDestructive(true);
    algorithm.Build(scope.use(new oc.Message_ProgressRange()));
    if (algorithm.HasErrors()) return null;
    const before = subshapes(scope, shape, "face");
    algorithm.SimplifyResult(edgesToo, true, 1e-9);
    const whole = scope.use(algorithm.Shape());
    const solid = shapeKind(shape) === "solid";
    const results = subshapes(scope, whole, solid ? "solid" : "shell");
    if (results.length !== 1) return null;
    const merged = ownHandle(results[0]!);
    const refuse = () => {
      freeShape(merged);
      return null;
    };
    const after = facesOf(merged);
    if (after.length === before.length) return refuse();
    const measure = solid ? quickVolume : areaOf;
    const size = measure(shape);
    if (Math.abs(measure(merged) - size) > WEIGHING * Math.abs(size)) return refuse();
    if (solid && openEdges(merged).length > 0) return refuse();
    const place = new ShapeMap<number>();
    after.forEach((face, i) => {
      place.set(face, i);
    });
    const sources: number[][] = after.map(() => []);
    before.forEach((face, i) => {
      for (const image of imagesOf(scope, algorithm, face)) {
        const at = place.get(image);
        if (at !== undefined) sources[at]!.push(i);
      }
    });
    if (sources.some((list) => list.length === 0)) return refuse();
    return { shape: merged, sources };
  });
}
