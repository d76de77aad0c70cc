import { fail, type Repair } from "../../errors";
import { originOf } from "../../fit/offset-faces";
import { type Onto, type ReplaceFault, replaceFace } from "../../fit/replace-face";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import {
  allFaceFacts,
  centre,
  diagonal,
  dot,
  freeShape,
  makePlaneFace,
  ownHandle,
  scale,
  sub,
  wholeFace,
} from "../../kernel";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { tellGone } from "../shared/faces-gone";
import { replaceFaceStep } from "./declare";

type Values = ValuesOf<typeof replaceFaceStep>;

/** What a face is replaced by, what it is called, and the body that it is of. */
interface Target {
  onto: Onto;
  name: string;
  body: string | null;
  /** Whether it ends where it ends: it is not run on. */
  ends: boolean;
}

export const evaluateReplaceFace = evaluates(replaceFaceStep, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const [ref] = values.face;
    if (!ref) fail("nothing-picked", "Pick the face that is replaced.", { step, field: "face" });
    const { body, face } = context.face(ref);
    if (!has(body, "closed"))
      fail("needs-solids", `${context.nameOf(body.id)} is a sheet: only faces of solids can be replaced.`, {
        step,
        field: "face",
        bodies: [body.id],
      });
    const target = targetOf(values, body, face, context);
    const made = replaceFace(body, face, target.onto, values.flip);
    if ("why" in made) refuse(made, body, face, target, values, context);
    const left = new Set(made.faces.map((name) => originOf(name, body.faces)));
    const gone = body.faces.flatMap((_, place) => (place === face || left.has(place) ? [] : [place]));
    tellGone(
      gone,
      body,
      { one: "is gone: the surface passes where it was.", several: "are gone: the surface passes where they were." },
      context,
    );
    const sheet = values.by === "sheet" && !values.keep && target.body ? [target.body] : [];
    return { made: [{ ...body, shape: made.shape, faces: made.faces }], used: [body.id, ...sheet] };
  },
});

function targetOf(values: Values, own: Body, place: number, context: StepContext): Target {
  const { step, nameOf } = context;
  switch (values.by) {
    case "face": {
      const [ref] = values.onto;
      if (!ref) fail("nothing-picked", "Pick the face that it goes to.", { step, field: "onto" });
      const { body, face } = context.face(ref);
      if (body.id === own.id && face === place)
        fail("same-face", "A face cannot be replaced by itself. Pick another.", { step, field: "onto" });
      const onto: Onto = (room) => {
        const shape = wholeFace(body.shape, face, room);
        return shape && { shape, faces: [body.faces[face]!] };
      };
      return { onto, name: `the face of ${nameOf(body.id)}`, body: body.id, ends: false };
    }
    case "sheet": {
      const [sheet] = context.bodies(values.sheet);
      if (!sheet) fail("nothing-picked", "Pick the sheet that it goes to.", { step, field: "sheet" });
      const onto: Onto = () => ({ shape: ownHandle(sheet.shape), faces: sheet.faces });
      return { onto, name: nameOf(sheet.id), body: sheet.id, ends: true };
    }
    case "workplane": {
      const [plane] = context.items(values.plane);
      if (!plane || !has(plane, "plane"))
        fail("nothing-picked", "Pick the plane that it goes to.", { step, field: "plane" });
      const { origin, normal } = plane;
      const onto: Onto = (room) => {
        const middle = centre(room);
        const at = sub(middle, scale(normal, dot(sub(middle, origin), normal)));
        return { shape: makePlaneFace(at, normal, 2 * diagonal(room)), faces: ["plane"] };
      };
      return { onto, name: nameOf(plane.id), body: null, ends: false };
    }
  }
}

/** @throws SeamError with the face, and what would do, where that was tried. */
function refuse(
  { why }: ReplaceFault,
  body: Body,
  face: number,
  { onto, name, body: other, ends }: Target,
  values: Values,
  context: StepContext,
): never {
  const { step } = context;
  const own = context.nameOf(body.id);
  const turned = replaceFace(body, face, onto, !values.flip);
  if (!("why" in turned)) freeShape(turned.shape);
  const repair: Repair | null =
    "why" in turned ? null : { label: "Let the solid lie on its other side", step, set: { flip: !values.flip } };
  const sentence = {
    askew: `${capital(name)} stands square to the face of ${own}: it has no side towards it. Pick another.`,
    short: `${capital(name)} ends before it reaches all round the face of ${own}. Run it on first.`,
    open: `Faces beside the face of ${own} never meet ${name}, run on: they lean away from it, or it passes them by.`,
    ends: `${capital(name)} has no shape of its own beyond where it ends. Make a sheet of it, and run that on.`,
    nothing: `Nothing of ${own} lies on that side of ${name}.`,
    apart: `${own} falls apart at ${name}.`,
    undivided: `Where faces of ${own} meet ${name} cannot be found. Move it by a little.`,
  }[why];
  fail(`replace-${why}`, sentence, {
    step,
    field: ends ? "sheet" : values.by === "face" ? "onto" : "plane",
    bodies: [body.id, ...(other && other !== body.id ? [other] : [])],
    faces: [{ body: body.id, face: body.faces[face]! }],
    at: [...allFaceFacts(body.shape)[face]!.centre] as [number, number, number],
    ...(repair ? { repair } : {}),
  });
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
