import { lib } from "./library";
import { scoped } from "./scope";
import { listOf, type Shape } from "./topology";

/** The library's own operations without anything of ours round them: what the bench compares the seam engine with. */
export type BareOperation = "union" | "subtract" | "intersect" | "split";

/** Runs one bare operation and throws its result away. */
export function bare(operation: BareOperation, stock: readonly Shape[], cutters: readonly Shape[]): void {
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
    scope.use(algorithm.Shape());
  });
}
