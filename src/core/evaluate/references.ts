import { fail, type Trouble } from "../errors";
import type { Body } from "../items";
import type { Step } from "../job";
import { allFaceFacts, edgeFactsAt, edgeNeighbourhoods, verticesOf } from "../kernel";
import { cornerRefOf, edgeRefOf, faceRefOf, facesWith, resolveCorner, resolveEdge, resolveFace } from "../naming";
import type { CornerRef, EdgeRef, FaceRef, FaceRule } from "../references";
import type { StepContext } from "../steps/evaluation";
import { holds, replaced } from "./replaced";

/** How a picked face, edge or corner was found. */
export interface FoundReference {
  step: string;
  kind: "face" | "edge" | "corner";
  body: Body;
  /** Which of the body's faces, edges or corners it is. */
  place: number;
  /** By its name, or, with a warning, by what it looked like. */
  how: "name" | "looks";
}

/**
 * What finds the faces, edges and corners that a step names. What is found by its looks is warned of, with a repair that
 * makes the step name what was found.
 *
 * @param body the body that a reference's id means. @param seen told of each that was found.
 */
export function referencesOf(
  step: Step,
  body: (id: string) => Body,
  warn: (trouble: Trouble) => void,
  seen?: (found: FoundReference) => void,
): Pick<StepContext, "face" | "faces" | "edge" | "corner"> {
  const note = (
    kind: FoundReference["kind"],
    on: Body,
    place: number,
    warning: string | null,
    old: object,
    now: () => object,
  ) => {
    seen?.({ step: step.id, kind, body: on, place, how: warning ? "looks" : "name" });
    if (!warning) return;
    const { field } = fieldOf(step, old);
    const repair = field && {
      label: `Keep the ${kind} that was found`,
      step: step.id,
      set: { [field]: replaced(step[field], old, now()) },
    };
    warn({
      code: `${kind}-guessed`,
      message: warning,
      step: step.id,
      ...(field ? { field } : {}),
      bodies: [on.id],
      at: [...placeOf(kind, on, place)] as [number, number, number],
      ...(repair ? { repair } : {}),
    });
  };
  const face = (ref: FaceRef) => {
    const on = body(ref.body);
    const found = resolveFace(on, ref);
    const { face } = found;
    note("face", on, face, found.how === "guessed" ? found.warning : null, ref, () => ({
      ...faceRefOf(on, face),
      ...(ref.with ? { with: ref.with } : {}),
    }));
    return { body: on, face };
  };
  return {
    face(ref: FaceRef) {
      if (ref.with)
        fail("one-by-one", "A face is picked by a rule where single faces are asked for. Pick the faces one by one.", {
          step: step.id,
          ...fieldOf(step, ref),
        });
      return face(ref);
    },
    faces(ref: FaceRef) {
      const { body: on, face: place } = face(ref);
      const faces = ref.with ? facesWith(on, place, ref.with) : [place];
      if (!faces) refuseRule(ref.with!, on, place, step, ref);
      return { body: on, faces };
    },
    edge(ref: EdgeRef) {
      const on = body(ref.body);
      const { place, warning } = resolveEdge(on, ref);
      note("edge", on, place, warning, ref, () => edgeRefOf(on, place));
      return {
        body: on,
        edge: place,
        get facts() {
          return edgeFactsAt(on.shape, place)!;
        },
        get faces() {
          return edgeNeighbourhoods(on.shape).edges[place]?.faces ?? [];
        },
      };
    },
    corner(ref: CornerRef) {
      const on = body(ref.body);
      const { place, at, warning } = resolveCorner(on, ref);
      note("corner", on, place, warning, ref, () => cornerRefOf(on, place));
      return at;
    },
  };
}

/** The field of a step that holds a reference. */
function fieldOf(step: Step, ref: object): { field?: string } {
  const field = Object.keys(step).find((key) => holds(step[key], ref));
  return field ? { field } : {};
}

function refuseRule(rule: FaceRule, on: Body, place: number, step: Step, ref: FaceRef): never {
  fail(
    "rule-unfit",
    rule === "radius"
      ? "Faces of the same radius are asked for, and the picked face has none. Pick a cylindrical, spherical or ring-shaped face, or take that face alone."
      : "Faces that look the same way are asked for, and the picked face is not flat. Pick a flat face, or take that face alone.",
    { step: step.id, ...fieldOf(step, ref), bodies: [on.id], faces: [{ body: on.id, face: on.faces[place]! }] },
  );
}

function placeOf(kind: FoundReference["kind"], { shape }: Body, place: number) {
  if (kind === "face") return allFaceFacts(shape)[place]!.centre;
  return kind === "edge" ? edgeFactsAt(shape, place)!.at : verticesOf(shape)[place]!;
}
