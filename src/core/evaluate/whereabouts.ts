import { SeamError } from "../errors";
import { type Body, isBody } from "../items";
import type { Note, Step } from "../job";
import { cornerRefOf, edgeRefOf, faceRefOf, facesWith, resolveCorner, resolveEdge, resolveFace } from "../naming";
import type { CornerRef, EdgeRef, FaceRef } from "../references";
import { references } from "../references/marks";
import { stepType } from "../steps";
import type { Live } from "./bench";

export type PickedRef = FaceRef | EdgeRef | CornerRef;

/** Where a picked face, edge or corner is now. */
export interface Whereabouts {
  /** As it is kept. */
  ref: PickedRef;
  /** As it would be written today; null where it is lost, or could be several. */
  now: PickedRef | null;
  /** Whether it was found by what it looks like, not by its name. */
  guessed: boolean;
  /** The faces that a rule brings along, by name, the picked one first; empty where the rule says nothing of such a face. */
  all?: string[];
}

/** What the references of a step, and those of notes, have come to: found by the same finder that builds with them. */
export interface Meanings {
  /** The items that each reference of the open step means: by id. */
  items: Record<string, string[]>;
  picked: Whereabouts[];
}

/** What a step's references mean on the bench before it. */
export function meaningsOf(step: Step, find: (id: string) => readonly Live[]): Meanings {
  const found: Meanings = { items: {}, picked: [] };
  const schema = stepType(step.type)?.schema;
  if (!schema) return found;
  references.each(schema, step, (value, { of }) => {
    if (of === "item") found.items[value as string] = find(value as string).map(({ item }) => item.id);
    else if (of !== "step") {
      const ref = value as PickedRef;
      found.picked.push(whereabouts(ref, of, bodiesOf(find(ref.body)).slice(0, 1)));
    }
  });
  return found;
}

/**
 * What the faces that notes are on have come to. A body that was divided hands its notes on to the piece that has the face.
 *
 * @param heirs all items that a body lives on in.
 */
export function notedFaces(notes: readonly Note[], heirs: (id: string) => readonly Live[]): Whereabouts[] {
  return notes.flatMap(({ body, face }) => (face ? [whereabouts(face, "face", bodiesOf(heirs(body)))] : []));
}

type Of = "face" | "edge" | "corner";

const bodiesOf = (live: readonly Live[]): Body[] => live.map(({ item }) => item).filter(isBody);

/** Found by its name on one body, else by its looks where only one body has the like. */
function whereabouts(ref: PickedRef, of: Of, bodies: readonly Body[]): Whereabouts {
  const found = bodies.flatMap((body) => foundOn(ref, of, body) ?? []);
  const named = found.filter(({ guessed }) => !guessed);
  const [only, second] = named.length > 0 ? named : found;
  return only && !second ? only : { ref, now: null, guessed: false };
}

function foundOn(ref: PickedRef, of: Of, body: Body): Whereabouts | null {
  try {
    if (of === "corner") {
      const { place, warning } = resolveCorner(body, ref as CornerRef);
      return { ref, now: cornerRefOf(body, place), guessed: warning !== null };
    }
    if (of === "edge") {
      const { place, warning } = resolveEdge(body, ref as EdgeRef);
      return { ref, now: edgeRefOf(body, place), guessed: warning !== null };
    }
    const { face, how } = resolveFace(body, ref as FaceRef);
    const rule = (ref as FaceRef).with;
    return {
      ref,
      now: { ...faceRefOf(body, face), ...(rule ? { with: rule } : {}) },
      guessed: how === "guessed",
      ...(rule ? { all: (facesWith(body, face, rule) ?? []).map((place) => body.faces[place]!) } : {}),
    };
  } catch (cause) {
    if (cause instanceof SeamError) return null;
    throw cause;
  }
}
