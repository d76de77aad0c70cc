import { rightSideOut } from "../facts/soundness";
import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { occurrences, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";

const PATH = "/exchange.step";

export interface StepShape {
  kind: "solid" | "sheet";
  /** Owned by the caller. */
  shape: Shape;
  /** The 1-based place, in the file, of the record that this body was made from; null when unknown. */
  record: number | null;
}

export interface StepContents {
  shapes: StepShape[];
  /** Records that the library could not read as they stand, by their 1-based place. */
  faulty: number[];
  /** Edges that belong to no face: drawn curves, which are not brought in. */
  looseCurves: number;
}

/** Records that become a body of their own: a solid, or a shell that no solid uses. */
const SOLID_RECORDS = /(MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP)/;
const SHELL_RECORDS = /(SHELL_BASED_SURFACE_MODEL|OPEN_SHELL|CLOSED_SHELL|ORIENTED_CLOSED_SHELL)/;

/**
 * Reads the solids and sheets of a STEP file, in millimetres whatever unit the file uses, each placed as its
 * assembly places it. A sheet is a shell that is part of no solid; loose faces that share edges become one sheet.
 * @throws KernelFault when the text is not a STEP file that the library can read.
 */
export function readStepShapes(bytes: Uint8Array): StepContents {
  return scoped((scope) => {
    const oc = lib();
    oc.FS.writeFile(PATH, bytes);
    try {
      const reader = scope.use(new oc.STEPControl_Reader());
      if ((reader.ReadFile(PATH) as string) !== "IFSelect_RetDone")
        throw new KernelFault("The file could not be read as STEP.", false);
      reader.TransferRoots(scope.use(new oc.Message_ProgressRange()));
      if (reader.NbShapes() === 0) return { shapes: [], faulty: [], looseCurves: 0 };
      const whole = scope.use(reader.OneShape());
      if (whole.IsNull()) return { shapes: [], faulty: [], looseCurves: 0 };

      // Every occurrence counts: an assembly may place one solid in several places, which are several bodies.
      const solids = distinct(occurrences(scope, whole, "solid"));
      const shells = distinct(occurrences(scope, whole, "shell", "solid"));
      const loose = distinct(occurrences(scope, whole, "face", "shell"));
      const curves = occurrences(scope, whole, "edge", "face").length;

      // The reader remembers what it made of each record; asking again gives the same shape without its place.
      const model = scope.use(reader.Model());
      const sources: { record: number; shape: Shape }[] = [];
      const faulty: number[] = [];
      for (let record = 1; record <= model.NbEntities(); record++) {
        if (model.IsErrorEntity(record)) faulty.push(record);
        const entity = scope.use(model.Value(record));
        const type = model.TypeName(entity, true);
        // A shell is looked at only where there are sheets: asking for one makes it anew, which takes its time.
        if (!SOLID_RECORDS.test(type) && !(shells.length > 0 && SHELL_RECORDS.test(type))) continue;
        reader.ClearShapes();
        if (!reader.TransferEntity(entity, scope.use(new oc.Message_ProgressRange())) || reader.NbShapes() === 0)
          continue;
        const made = scope.use(reader.OneShape());
        if (made.IsNull()) continue;
        for (const kind of ["solid", "shell"] as const)
          for (const shape of subshapes(scope, made, kind)) sources.push({ record, shape });
      }
      const recordOf = (shape: Shape) => sources.find((source) => source.shape.IsPartner(shape))?.record ?? null;

      const shapes: StepShape[] = solids.map((solid) => ({
        kind: "solid",
        shape: rightSideOut(solid),
        record: recordOf(solid),
      }));
      for (const shell of shells) shapes.push({ kind: "sheet", shape: ownHandle(shell), record: recordOf(shell) });
      for (const group of groupFaces(loose)) shapes.push({ kind: "sheet", shape: shellOf(group), record: null });
      return { shapes, faulty, looseCurves: curves };
    } finally {
      oc.FS.unlink(PATH);
    }
  });
}

function distinct(shapes: Shape[]): Shape[] {
  const seen = new ShapeMap<true>();
  return shapes.filter((shape) => {
    if (seen.get(shape)) return false;
    seen.set(shape, true);
    return true;
  });
}

function groupFaces(faces: Shape[]): Shape[][] {
  return scoped((scope) => {
    const groups: { faces: Shape[]; edges: ShapeMap<true> }[] = [];
    for (const face of faces) {
      const edges = subshapes(scope, face, "edge");
      const home = groups.find((group) => edges.some((edge) => group.edges.get(edge)));
      const group = home ?? { faces: [], edges: new ShapeMap<true>() };
      if (!home) groups.push(group);
      group.faces.push(face);
      for (const edge of edges) group.edges.set(edge, true);
    }
    return groups.map((group) => group.faces);
  });
}

export interface NamedShape {
  /** Plain letters and digits: the caller puts the real name into the text. */
  tag: string;
  shape: Shape;
}

/** Writes bodies as a STEP file (AP214, millimetres), one product each, named by its tag. Returns the file's text. */
export function writeStepShapes(bodies: readonly NamedShape[]): string {
  return scoped((scope) => {
    const oc = lib();
    const writer = scope.use(new oc.STEPControl_Writer());
    for (const { tag, shape } of bodies) {
      oc.Interface_Static.SetCVal("write.step.product.name", tag);
      const status = writer.Transfer(
        shape,
        "STEPControl_AsIs" as never,
        true,
        scope.use(new oc.Message_ProgressRange()),
      );
      if ((status as string) !== "IFSelect_RetDone")
        throw new KernelFault("A body could not be written as STEP.", false);
    }
    if ((writer.Write(PATH) as string) !== "IFSelect_RetDone")
      throw new KernelFault("The STEP file could not be written.", false);
    const text = oc.FS.readFile(PATH, { encoding: "utf8" }) as string;
    oc.FS.unlink(PATH);
    return text;
  });
}
