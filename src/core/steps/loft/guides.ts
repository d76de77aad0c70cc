import { fail } from "../../errors";
import { cornersOf, courseOf, type GuidePiece, type GuideTrouble, type LoftOutline } from "../../kernel";
import { pathOf, stretchesOf } from "../../sketch";
import type { StepContext } from "../evaluation";
import { sketchProfile } from "../shared/profile/profile";

/**
 * For each corner of the sections, what it follows from each section to the next; null where it runs freely.
 * @throws SeamError when a guide cannot be followed, or does not reach from the first section to the last.
 */
export function guidesAt(
  refs: readonly string[],
  sections: readonly LoftOutline[],
  context: StepContext,
): (GuidePiece[] | null)[] {
  const { step } = context;
  const corners = sections.map(cornersOf);
  const found = corners[0]!.map((): { pieces: GuidePiece[]; guide: string } => ({ pieces: [], guide: "" }));
  for (const ref of refs) {
    const { item, profile } = sketchProfile([ref], "Pick the sketch of the guide.", context);
    const refuse = (code: string, message: string, at?: readonly number[]): never =>
      fail(code, `${context.nameOf(item.id)} ${message}`, {
        step,
        field: "guides",
        bodies: [item.id],
        ...(at ? { at: [...at] as [number, number, number] } : {}),
      });
    const path = pathOf(profile.graph);
    if (!path) return refuse("guide-branches", "branches: a guide is one curve, or several in a row.");
    const { places } = profile.graph;
    const course = courseOf({ frame: item.frame, places, stretches: stretchesOf(profile), steps: path }, corners);
    if ("why" in course) return refuse(...sentence(course, sections.length));
    const { pieces } = found[course.corner]!;
    for (const [i, piece] of course.pieces.entries()) {
      const s = course.first + i;
      if (pieces[s]) refuse("guide-twice", "runs along a corner that another guide runs along already. Take one out.");
      pieces[s] = piece;
    }
    found[course.corner]!.guide = item.id;
  }
  return found.map(({ pieces, guide }) => {
    if (guide === "") return null;
    for (let s = 0; s + 1 < sections.length; s++)
      if (!pieces[s])
        fail(
          "guide-short",
          `Nothing guides the corner of ${context.nameOf(guide)} from section ${s + 1} to section ${s + 2}. Draw the guide on, or add one there.`,
          { step, field: "guides", bodies: [guide] },
        );
    return pieces;
  });
}

/** What a trouble is called, and the rest of a sentence that begins with the guide's name; where it is. */
function sentence(trouble: GuideTrouble, count: number): [code: string, message: string, at?: readonly number[]] {
  const onwards = count === 2 ? "the second" : "a later one";
  switch (trouble.why) {
    case "ends":
      return [
        "guide-off",
        `does not run from a corner of ${count === 2 ? "the first section" : "one section"} to the same corner of ${onwards}. Put its ends there, or move the corners on.`,
        trouble.at,
      ];
    case "beside":
      return [
        "guide-beside",
        `passes section ${trouble.section + 1} beside its corner. Draw it through the corner.`,
        trouble.at,
      ];
    case "joint":
      return [
        "guide-joint",
        `has a joint between sections ${trouble.section + 1} and ${trouble.section + 2}. Let its curves join at a section's corner.`,
      ];
  }
}
