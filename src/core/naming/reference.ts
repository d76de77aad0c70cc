import { fail } from "../errors";
import type { Body } from "../items";
import { allFaceFacts, boxOf, diagonal, distance, dot, type FaceFacts } from "../kernel";
import { type FaceRef, type Fingerprint, writeFaceRef } from "../references";
import { SAME_PLACE } from "../tolerance";
import { baseName, withoutPlace } from "./faces";
import { kindMisfit } from "./kinds";

export type Found = { how: "found"; face: number } | { how: "guessed"; face: number; warning: string };

/**
 * Finds the face that a reference means: by name; else by fingerprint, with a warning; else an error that says what
 * was wanted.
 * @throws SeamError `face-lost` or `face-ambiguous`.
 */
export function resolveFace(body: Body, ref: FaceRef): Found {
  if (ref.face !== undefined) {
    const exact = body.faces.indexOf(ref.face);
    if (exact >= 0) {
      const doubtful = ref.print !== undefined && mayBeTwin(body, exact, ref.print);
      return doubtful
        ? {
            how: "guessed",
            face: exact,
            warning:
              "A picked face is one of several alike, and another lies nearer to where it was. Check which is meant.",
          }
        : { how: "found", face: exact };
    }
    const family = indicesWhere(body.faces, (name) => baseName(name) === baseName(ref.face!));
    if (family.length === 1)
      return {
        how: "guessed",
        face: family[0]!,
        warning: "A picked face was divided or joined since; the same face was found again by its origin.",
      };
    if (ref.print) {
      const best = byFingerprint(body, ref.print, family.length ? family : undefined);
      if (best !== null)
        return {
          how: "guessed",
          face: best,
          warning: "A picked face has lost its name; it was found again by its shape and place. Check it.",
        };
    }
    fail("face-lost", `The picked face ${describe(ref)} is no longer on this body. Pick the face again.`, {
      bodies: [body.id],
    });
  }
  const best = byFingerprint(body, ref.print!);
  if (best === null)
    fail(
      "face-ambiguous",
      `No single face fits the description ${describe(ref)}. Name the face, or describe it more closely.`,
      {
        bodies: [body.id],
      },
    );
  return { how: "found", face: best };
}

/**
 * Whether a face that was found by name may be another now: its name says only its place among faces with the same neighbours,
 * and one of those fits what was picked better.
 */
function mayBeTwin(body: Body, face: number, print: Fingerprint): boolean {
  const name = body.faces[face]!;
  const twins = indicesWhere(body.faces, (other) => withoutPlace(other) === withoutPlace(name));
  if (twins.length < 2) return false;
  const facts = allFaceFacts(body.shape);
  const own = misfit(facts[face]!, print, sizeOf(body));
  return twins.some((twin) => misfit(facts[twin]!, print, sizeOf(body)) < own - 0.005);
}

function sizeOf({ shape }: Body): number {
  const box = boxOf(shape);
  return box ? Math.max(diagonal(box), SAME_PLACE) : 1;
}

function indicesWhere(names: readonly string[], test: (name: string) => boolean): number[] {
  return names.flatMap((name, i) => (test(name) ? [i] : []));
}

function describe({ face, print }: FaceRef): string {
  if (face) return `“${face}”`;
  return `“${[
    print?.kind,
    print?.radius !== undefined ? `radius ${print.radius}` : "",
    print?.centre ? `near ${print.centre.join(", ")}` : "",
  ]
    .filter(Boolean)
    .join(" ")}”`;
}

/** The one face that fits a fingerprint clearly better than any other; null when none or several do. */
function byFingerprint(body: Body, print: Fingerprint, among?: number[]): number | null {
  const facts = allFaceFacts(body.shape);
  const size = sizeOf(body);
  const scored = (among ?? facts.map((_, i) => i))
    .map((face) => ({ face, misfit: misfit(facts[face]!, print, size) }))
    .filter(({ misfit: m }) => m < 0.5)
    .sort((a, b) => a.misfit - b.misfit);
  if (scored.length === 0) return null;
  if (scored.length > 1 && scored[1]!.misfit - scored[0]!.misfit < 0.02) return null;
  return scored[0]!.face;
}

/** 0 for a perfect fit, 1 and more for none. */
function misfit(facts: FaceFacts, print: Fingerprint, size: number): number {
  let sum = kindMisfit(facts.kind, print.kind);
  if (sum === 1) return 1;
  if (print.direction) {
    if (!facts.direction) return 1;
    sum += 1 - dot(facts.direction, print.direction);
  }
  if (print.radius !== undefined) {
    if (facts.radius === undefined) return 1;
    sum += Math.min(1, Math.abs(facts.radius - print.radius) / Math.max(print.radius, SAME_PLACE));
  }
  if (print.centre) sum += distance(facts.centre, print.centre) / size;
  if (print.area !== undefined)
    sum += 0.25 * Math.min(1, Math.abs(facts.area - print.area) / Math.max(print.area, facts.area, Number.EPSILON));
  return sum;
}

/** A reference to a face as it is now, by name and looks. */
export function faceRefOf(body: Body, face: number): FaceRef {
  return writeFaceRef(body.id, { name: body.faces[face]!, ...allFaceFacts(body.shape)[face]! });
}
