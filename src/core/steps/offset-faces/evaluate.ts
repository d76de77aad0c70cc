import { fail, type Repair } from "../../errors";
import { type MovedFace, type OffsetFault, offsetFaces } from "../../fit/offset-faces";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { allFaceFacts, freeFacesOf, freeShape, withSmoothOn } from "../../kernel";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { refuseBriefly } from "../shared/briefly";
import { valuesOfFaces } from "../shared/face-sets";
import { tellGone } from "../shared/faces-gone";
import { largestThat, withWhatFits } from "../shared/largest";
import { firstSets } from "../shared/sets";
import { offsetFacesStep } from "./declare";

type Values = ValuesOf<typeof offsetFacesStep>;

export const evaluateOffsetFaces = evaluates(offsetFacesStep, {
  weighed: () => true,
  evaluate(values, context) {
    const body = solidOf(values, context);
    const moved = movedOf(values, body, context);
    const made = offsetFaces(body, moved);
    if ("why" in made) refuse(made, body, moved, values, context);
    tellGone(
      made.gone,
      body,
      {
        one: "is gone: the moved faces meet without it.",
        several: "are gone: the moved faces meet without them.",
      },
      context,
    );
    const { shape, faces } = made;
    return { made: [{ ...body, shape, faces }], used: [body.id] };
  },
});

/** The one solid that all the faces are of. */
function solidOf(values: Values, context: StepContext): Body {
  const { step } = context;
  const [first, ...more] = setsOf(values).flatMap(({ refs }) => refs.map((ref) => context.faces(ref).body));
  if (!first) fail("nothing-picked", "Pick the faces to move.", { step, field: "faces" });
  if (!has(first, "closed"))
    fail("needs-solids", `${context.nameOf(first.id)} is a sheet: only faces of solids can be moved.`, {
      step,
      bodies: [first.id],
    });
  const other = more.find(({ id }) => id !== first.id);
  if (other)
    fail("several-bodies", "The faces belong to several bodies. Pick faces of one solid.", {
      step,
      bodies: [first.id, other.id],
    });
  return first;
}

const setsOf = ({ faces, distance, sets, faces2, distance2, faces3, distance3 }: Values) =>
  firstSets(
    [
      { refs: faces, by: distance, field: "distance" },
      { refs: faces2, by: distance2, field: "distance2" },
      { refs: faces3, by: distance3, field: "distance3" },
    ],
    sets,
  );

/** Each face once, with how far it goes: what was picked for a distance comes before what only runs on from it. */
function movedOf(values: Values, body: Body, context: StepContext): MovedFace[] {
  const sets = setsOf(values).map(({ refs, by, field }) => ({
    refs,
    value: toMm(by),
    field: field.replace("distance", "faces"),
  }));
  const by = new Map(valuesOfFaces(sets, context).get(body) ?? []);
  if (values.smooth)
    for (const { refs, value } of sets) {
      const places = refs.flatMap((ref) => context.faces(ref).faces);
      for (const place of withSmoothOn(body.shape, places)) if (!by.has(place)) by.set(place, value);
    }
  const moved = [...by].flatMap(([place, mm]) => (Math.abs(mm) < SAME_PLACE ? [] : [{ place, by: mm }]));
  if (moved.length === 0)
    fail("no-distance", "The faces are moved by nothing. Give a distance.", { step: context.step, field: "distance" });
  return moved;
}

/** With more faces than these a trial takes long: fewer are made. */
const FEW = 4;

/** @throws SeamError with the faces to blame, and what would do. */
function refuse(
  { why, places }: OffsetFault,
  body: Body,
  moved: readonly MovedFace[],
  values: Values,
  context: StepContext,
): never {
  const { step } = context;
  const name = context.nameOf(body.id);
  refuseBriefly(context, `offset-${why}`, "distance", body.id);
  const works = (tried: readonly MovedFace[]) => {
    const made = offsetFaces(body, tried);
    if ("why" in made) return false;
    freeShape(made.shape);
    return true;
  };
  const isFree = freeFacesOf(body.shape).length > 0;
  const smooth = values.smooth || isFree ? null : smoothRepair(body, moved, step, works);
  const [only, ...more] = setsOf(values);
  const mm = toMm(only!.by);
  const most =
    why === "open" || more.length > 0 || isFree
      ? null
      : largestThat(
          (size) => works(moved.map(({ place }) => ({ place, by: Math.sign(mm) * size }))),
          Math.abs(mm),
          moved.length > FEW ? 3 : 10,
        );
  const fits = most === null ? null : Math.sign(mm) * most;
  const smaller: Repair[] =
    fits === null ? [] : [{ label: `Move them by ${formatLength(fits)}`, step, set: { distance: fits } }];
  const [repair, ...others] = [...(smooth ? [smooth] : []), ...smaller];
  const sentence = {
    ends: `${places.length > 1 ? "Faces" : "A face"} of ${name} cannot be moved so far: a radius is used up, or the surface ends with the face.`,
    open: `A face of ${name} never meets what lies beside it, run on: that is tangent to it, or leans away. Move what lies beside it, too.`,
    nothing: `Nothing is left of ${name}. Move the faces in by less.`,
    apart: `${name} falls apart. Move the faces in by less.`,
    undivided: `Where the moved faces of ${name} meet those beside them cannot be found. Move them by a little more or less.`,
  }[why];
  const at = allFaceFacts(body.shape)[places[0]!]?.centre;
  fail(`offset-${why}`, withWhatFits(sentence, fits, !isFree || why === "open"), {
    step,
    field: "distance",
    bodies: [body.id],
    faces: places.map((place) => ({ body: body.id, face: body.faces[place]! })),
    ...(at ? { at: [...at] as [number, number, number] } : {}),
    ...(repair ? { repair } : {}),
    ...(others.length > 0 ? { others } : {}),
  });
}

/** Moving what runs smoothly on, too, where that would do: it is tried before it is offered. */
function smoothRepair(
  body: Body,
  moved: readonly MovedFace[],
  step: string,
  works: (tried: readonly MovedFace[]) => boolean,
): Repair | null {
  const by = new Map(moved.map((face) => [face.place, face.by]));
  for (const { place, by: mm } of moved)
    for (const other of withSmoothOn(body.shape, [place])) if (!by.has(other)) by.set(other, mm);
  if (by.size === moved.length || !works([...by].map(([place, mm]) => ({ place, by: mm })))) return null;
  return { label: "Move what runs smoothly on, too", step, set: { smooth: true } };
}
