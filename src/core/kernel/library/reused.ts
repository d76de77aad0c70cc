import type {
  BRepCheck_Analyzer,
  BRepExtrema_DistShapeShape,
  TopoDS_Shape as Shape,
  TopExp_Explorer,
} from "replicad-opencascadejs";
import { lib } from "./library";
import { KINDS, type SubshapeKind } from "./subshape-kind";

/**
 * Objects of the library that cannot be freed, since nothing of theirs lets their destructors be run (see `destructors`): they
 * are made once and used again, and let go of what they were used on by being set to something empty.
 */
class Reused<T> {
  private readonly idle: T[] = [];

  constructor(
    private readonly make: () => T,
    private readonly letGo: (object: T) => void,
  ) {}

  /**
   * Works with one of them; one that is used while another is in use is another. One that failed at its work is not used again:
   * what it was left in is not known.
   */
  use<R>(work: (object: T) => R): R {
    const object = this.idle.pop() ?? this.make();
    const result = work(object);
    this.letGo(object);
    this.idle.push(object);
    return result;
  }
}

let empty: Shape | undefined;
const nothing = (): Shape => {
  if (!empty) {
    const compound = new (lib().TopoDS_Compound)();
    const builder = new (lib().TopoDS_Builder)();
    builder.MakeCompound(compound);
    builder.delete();
    empty = compound;
  }
  return empty;
};

const walks = new Reused<TopExp_Explorer>(
  () => new (lib().TopExp_Explorer)(),
  (walk) => walk.Init(nothing(), KINDS.vertex, "TopAbs_SHAPE"),
);

const checks = new Reused<BRepCheck_Analyzer>(
  () => new (lib().BRepCheck_Analyzer)(nothing(), true, false, false),
  (check) => check.Init(nothing(), true),
);

const distances = new Reused<BRepExtrema_DistShapeShape>(
  () => new (lib().BRepExtrema_DistShapeShape)(),
  (extrema) => {
    extrema.LoadS1(nothing());
    extrema.LoadS2(nothing());
  },
);

/** Works with a walk over the subshapes of a shape, those inside an `outside` kind left out. */
export function walked<R>(
  shape: Shape,
  kind: SubshapeKind,
  outside: SubshapeKind | undefined,
  work: (walk: TopExp_Explorer) => R,
): R {
  return walks.use((walk) => {
    walk.Init(shape, KINDS[kind], outside ? KINDS[outside] : "TopAbs_SHAPE");
    return work(walk);
  });
}

/** Works with the library's full check (topology and geometry) of a shape. */
export function checked<R>(shape: Shape, work: (check: BRepCheck_Analyzer) => R): R {
  return checks.use((check) => {
    check.Init(shape, true);
    return work(check);
  });
}

/** Works with the library's search for where two shapes are nearest to each other, not yet performed. */
export function apart<R>(one: Shape, other: Shape, work: (extrema: BRepExtrema_DistShapeShape) => R): R {
  return distances.use((extrema) => {
    extrema.LoadS1(one);
    extrema.LoadS2(other);
    return work(extrema);
  });
}
