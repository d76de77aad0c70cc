import type { FaceFacts, Vec3 } from "../../../kernel";
import type { Box } from "../../../kernel/space/vectors";
import type { ValuesOf } from "../../evaluation";

/** Where a number of a step stands in space: what an arrow in the view is drawn from. */
export interface HandlePlace {
  /** The value, and which of its numbers where it has several, as a point has. */
  field: string;
  index?: number;
  kind: "length" | "angle";
  /** What it is called, in a word or two. */
  label: string;
  /** A place that goes with the number, mm: on what it makes. */
  at: Vec3;
  /** Of length 1: which way that place goes as the number grows; beside that it may go along the face that it is the middle of. */
  way: Vec3;
  /** How far it goes, mm, while the number grows by one: by a millimetre, or by a degree. */
  rate: number;
  /** Whether it moves the whole: what is worth showing while another step is open that cuts with it. */
  moves?: true;
  /** A workplane, by id, at whose rim the arrow stands: in the middle it would lie on what is cut. */
  rim?: string;
}

/** A body that a step made, or made anew. */
export interface MadeBody {
  faces: readonly (Omit<FaceFacts, "area"> & { name: string })[];
  box: Box | null;
}

/** What is there, as the view has it. */
export interface Surroundings {
  /** The step whose numbers are asked for. */
  step: string;
  bodies: readonly MadeBody[];
  /** The workplanes that it made. */
  planes: readonly { id: string; origin: Vec3; normal: Vec3 }[];
  /** How large all that is shown is, mm. */
  size: number;
}

/** A kind of step's numbers in space. @param values worked out: millimetres and degrees. */
export type Handles = (values: never, around: Surroundings) => HandlePlace[];

/** Keeps the type of a step's values. */
export function handlesFor<T>(
  _type: T,
  find: (values: ValuesOf<T>, around: Surroundings) => HandlePlace[],
): { type: T; find: Handles } {
  return { type: _type, find: find as Handles };
}
