import { fail } from "../../errors";
import { add, allFaceFacts, alongEdge, onFaceNear, scale, subshapePlanes, type Vec3 } from "../../kernel";
import { toMm, toRadians } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { facePlane, NORMALS, otherPlane, type Plane } from "../shared/plane/planes";
import { workplane } from "./declare";
import { aboutLine, midway, squareOn, throughPoints, touchingCylinder, towards, turnedAbout } from "./planes";

type Values = ValuesOf<typeof workplane>;

/** Why a face has no one place, or no one direction, by a given point. */
const NO_PLACE = {
  many: "Several places of the face are as near to that point. Give a place on the face itself.",
  tip: "At that place the face looks in several ways, as at a cone’s tip. Give a place beside it.",
};

export const evaluateWorkplane = evaluates(workplane, {
  weighed: () => true,
  evaluate(values, context) {
    const { origin, normal } = found(values, context);
    return {
      made: [
        {
          id: `${context.step}:plane`,
          kind: "workplane",
          origin: add(origin, scale(normal, toMm(values.offset))),
          normal: values.flip ? scale(normal, -1) : normal,
          hint: { text: "Workplane" },
        },
      ],
      used: [],
    };
  },
});

function found(values: Values, context: StepContext): Plane {
  const { step } = context;
  switch (values.base) {
    case "face":
      return facePlane(values.face[0], "Pick the flat face that the workplane starts from.", context);
    case "workplane":
      return otherPlane(values.plane, "Pick the workplane to start from.", context);
    case "edge":
      return atAngle(values, context);
    case "points": {
      if (values.corners.length < 3)
        fail("nothing-picked", "Pick three corners that the workplane goes through.", { step });
      const points = values.corners.map((ref) => context.corner(ref)) as [Vec3, Vec3, Vec3];
      return (
        throughPoints(points) ??
        fail("points-in-line", "The three corners lie on one line, so they fix no plane. Pick another corner.", {
          step,
          at: [...points[0]],
        })
      );
    }
    case "midway": {
      if (values.faces.length < 2)
        fail("nothing-picked", "Pick the two flat faces that the workplane lies between.", { step });
      const [a, b] = values.faces.map((ref) => facePlane(ref, "", context)) as [Plane, Plane];
      return midway(a, b, values.otherHalf);
    }
    case "tangent": {
      const ref =
        values.face[0] ?? fail("nothing-picked", "Pick the cylindrical face that the workplane touches.", { step });
      const { body, face } = context.face(ref);
      const { direction, radius, axisAt } = allFaceFacts(body.shape)[face]!;
      if (!direction || radius === undefined || !axisAt)
        fail("not-cylindrical", "The picked face is not cylindrical. Pick a cylindrical one.", {
          step,
          bodies: [body.id],
        });
      return touchingCylinder(axisAt, direction, radius, toRadians(values.angle));
    }
    case "curve": {
      const ref =
        values.edge[0] ?? fail("nothing-picked", "Pick the edge that the workplane stands square to.", { step });
      const { body, edge, facts } = context.edge(ref);
      const along = toMm(values.along);
      if (along > facts.length + SAME_PLACE)
        fail(
          "past-the-end",
          `The edge is ${formatLength(facts.length)} long, and ${formatLength(along)} along it is past its end. Give a smaller distance.`,
          { step, field: "along", bodies: [body.id] },
        );
      const { at, tangent } = alongEdge(body.shape, edge, Math.min(along, facts.length));
      return { origin: at, normal: tangent };
    }
    case "square": {
      const ref =
        values.face[0] ?? fail("nothing-picked", "Pick the face that the workplane stands square on.", { step });
      const { body, face } = context.face(ref);
      const place = onFaceNear(body.shape, face, values.through);
      if (place === "many" || place === "tip")
        fail("no-place", NO_PLACE[place], { step, field: "through", bodies: [body.id] });
      return squareOn(place.at, place.looks, toRadians(values.angle));
    }
    case "parallel": {
      const corner =
        values.corners[0] ?? fail("nothing-picked", "Pick the corner that the workplane goes through.", { step });
      return { origin: context.corner(corner), normal: likened(values, context).normal };
    }
    case "normal":
      return (
        towards(values.through, values.normal) ??
        fail("no-direction", "0, 0, 0 is no direction. Give the way in which its front looks, such as 1, 0, 1.", {
          step,
          field: "normal",
        })
      );
    case "turned":
      return turnedAbout(likened(values, context), values.through, AXES[values.axis], toRadians(values.angle));
    default:
      return { origin: [0, 0, 0], normal: NORMALS[values.base] };
  }
}

/** The plane that the workplane is parallel to, or turned from. */
function likened(values: Values, context: StepContext): Plane {
  if (values.parallelTo === "face")
    return facePlane(values.face[0], "Pick the flat face that it is parallel to, or turned from.", context);
  if (values.parallelTo === "workplane") return otherPlane(values.plane, "Pick the workplane to start from.", context);
  return { origin: [0, 0, 0], normal: NORMALS[values.parallelTo] };
}

const AXES: Record<Values["axis"], Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

function atAngle(values: Values, context: StepContext): Plane {
  const { step } = context;
  const ref =
    values.edge[0] ?? fail("nothing-picked", "Pick the straight edge that the workplane turns about.", { step });
  const { body, facts, faces } = context.edge(ref);
  if (facts.kind !== "line" || !facts.direction)
    fail("not-straight", "The picked edge is not straight. Pick a straight one.", { step, bodies: [body.id] });
  const planes = subshapePlanes(body.shape);
  const own = faces.map((face) => planes[face]).find((plane) => plane !== null && plane !== undefined);
  const reference = values.face[0] ? facePlane(values.face[0], "", context).normal : own?.normal;
  if (!reference)
    fail("no-reference", "No flat face meets this edge: pick the face that the angle is counted from.", { step });
  return (
    aboutLine(facts.at, facts.direction, reference, toRadians(values.angle)) ??
    fail("square-to-edge", "The edge stands square on that face, so it gives no angle. Pick a face along the edge.", {
      step,
    })
  );
}
