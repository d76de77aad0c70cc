import type { ChFi3d_FilletShape } from "replicad-opencascadejs";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, listOf, ownHandle, type Shape, subshapes } from "../library/topology";
import { type Deflection, extracted } from "../mesh/tessellate";

/** The library's own operations without anything of ours round them: what the bench compares the seam engine with. */
export type BareOperation = "union" | "subtract" | "intersect" | "split";

/** Runs one bare operation and throws its result away. @param merge whether faces on one surface are made one. */
export function bare(
  operation: BareOperation,
  stock: readonly Shape[],
  cutters: readonly Shape[],
  merge = false,
): void {
  scoped((scope) => {
    const oc = lib();
    const algorithm = scope.use(
      operation === "union"
        ? new oc.BRepAlgoAPI_Fuse()
        : operation === "subtract"
          ? new oc.BRepAlgoAPI_Cut()
          : operation === "intersect"
            ? new oc.BRepAlgoAPI_Common()
            : new oc.BRepAlgoAPI_Splitter(),
    );
    algorithm.SetArguments(listOf(scope, stock));
    algorithm.SetTools(listOf(scope, cutters));
    algorithm.SetNonDestructive(true);
    algorithm.Build(scope.use(new oc.Message_ProgressRange()));
    if (merge) algorithm.SimplifyResult(true, true, 1e-9);
    scope.use(algorithm.Shape());
  });
}

/** The solids that the library's splitter makes of one by sheets. They belong to the caller. */
export function bareSplit(stock: Shape, knives: readonly Shape[]): Shape[] {
  return scoped((scope) => {
    const oc = lib();
    const algorithm = scope.use(new oc.BRepAlgoAPI_Splitter());
    algorithm.SetArguments(listOf(scope, [stock]));
    algorithm.SetTools(listOf(scope, knives));
    algorithm.SetNonDestructive(true);
    algorithm.Build(scope.use(new oc.Message_ProgressRange()));
    return subshapes(scope, scope.use(algorithm.Shape()), "solid").map(ownHandle);
  });
}

/** The library's own mesh of a shape, copied out and thrown away. */
export function bareMesh(shape: Shape, deflection: Deflection): void {
  extracted(shape, deflection, () => {});
}

/** Rounds edges of a shape, or cuts them off, with the library alone, and throws the result away. */
export function bareEdges(work: "fillet" | "chamfer", shape: Shape, edges: readonly Shape[], size: number): void {
  scoped((scope) => {
    const oc = lib();
    const maker = scope.use(
      work === "fillet"
        ? new oc.BRepFilletAPI_MakeFillet(shape, "ChFi3d_Rational" as unknown as ChFi3d_FilletShape)
        : new oc.BRepFilletAPI_MakeChamfer(shape),
    );
    for (const edge of edges) maker.Add(size, asEdge(scope, edge));
    maker.Build(scope.use(new oc.Message_ProgressRange()));
    scope.use(maker.Shape());
  });
}

/** The library's own volume, area and tight box of a shape. */
export function bareMeasures(shape: Shape): void {
  scoped((scope) => {
    const oc = lib();
    const properties = scope.use(new oc.GProp_GProps());
    oc.BRepGProp.VolumeProperties(shape, properties, false, false, false);
    oc.BRepGProp.SurfaceProperties(shape, properties, false, false);
    oc.BRepBndLib.AddOptimal(shape, scope.use(new oc.Bnd_Box()), false, false);
  });
}
