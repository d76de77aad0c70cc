import { z } from "zod";
import { fail } from "../../errors";
import { add, allFaceFacts, alongEdge, scale, subshapePlanes, type Vec3 } from "../../kernel";
import { cornerRefSchema, edgeRefSchema, faceRefSchema } from "../../naming";
import { angleField, lengthField, toMm, toRadians } from "../../params";
import { formatLength } from "../../units";
import { itemRef } from "../common";
import { PLANE_OPTIONS } from "../plane-choice";
import { facePlane, NORMALS, otherPlane, type Plane, PRINCIPAL } from "../planes";
import { defineStep, type StepContext } from "../step";
import { aboutLine, midway, throughPoints, touchingCylinder } from "./planes";

const schema = z.object({
  base: z
    .enum([...PRINCIPAL, "face", "workplane", "edge", "points", "midway", "tangent", "curve", "parallel"])
    .default("xy")
    .describe("How the plane is found: a principal one, or from what is picked"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The planar face (cylindrical for tangent)"),
  plane: z.array(itemRef).max(1).default([]).describe("Another workplane, when base or parallelTo is workplane"),
  edge: z.array(edgeRefSchema).max(1).default([]).describe("A straight edge (edge), or the curve (curve)"),
  corners: z.array(cornerRefSchema).max(3).default([]).describe("Three corners (points), or the one (parallel)"),
  faces: z.array(faceRefSchema).max(2).default([]).describe("The two planar faces of midway"),
  parallelTo: z.enum([...PRINCIPAL, "face", "workplane"]).default("xy"),
  otherHalf: z.boolean().default(false).describe("midway of faces at an angle: the other plane that halves it"),
  angle: angleField().default(0).describe("edge: from the face's plane; tangent: round the axis, from X"),
  along: lengthField({ min: 0 }).default(0).describe("curve: distance along it from where it begins, mm"),
  offset: lengthField().default(0).describe("Along the normal, mm"),
  flip: z.boolean().default(false).describe("Turn the front to the other side"),
});
type Values = z.infer<typeof schema>;

/** An endless plane to cut with and to draw on. */
export const workplane = defineStep({
  type: "workplane",
  schema,
  words: {
    label: "Workplane",
    line: "An endless plane to cut with: level, on a face, aslant about an edge, midway, touching …",
    stage: "draw",
  },
  fields: [
    {
      key: "base",
      kind: "choice",
      label: "From",
      options: [
        ...PLANE_OPTIONS,
        { value: "edge", label: "An edge, at an angle" },
        { value: "points", label: "Three corners" },
        { value: "midway", label: "Midway" },
        { value: "tangent", label: "Touching a cylinder" },
        { value: "curve", label: "Square to a curve" },
        { value: "parallel", label: "Through a corner" },
      ],
    },
    {
      key: "parallelTo",
      kind: "choice",
      label: "Parallel to",
      options: PLANE_OPTIONS,
      when: { key: "base", is: ["parallel"] },
    },
    {
      key: "face",
      kind: "faces",
      label: "Flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: { key: "base", is: ["face"] },
    },
    {
      key: "face",
      kind: "faces",
      label: "Parallel to the face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: [
        { key: "base", is: ["parallel"] },
        { key: "parallelTo", is: ["face"] },
      ],
    },
    {
      key: "plane",
      kind: "bodies",
      label: "Workplane",
      accepts: ["workplane"],
      min: 1,
      max: 1,
      when: { key: "base", is: ["workplane"] },
    },
    {
      key: "plane",
      kind: "bodies",
      label: "Parallel to the workplane",
      accepts: ["workplane"],
      min: 1,
      max: 1,
      when: [
        { key: "base", is: ["parallel"] },
        { key: "parallelTo", is: ["workplane"] },
      ],
    },
    {
      key: "edge",
      kind: "edges",
      label: "Straight edge",
      accepts: "line",
      min: 1,
      max: 1,
      when: { key: "base", is: ["edge"] },
    },
    {
      key: "face",
      kind: "faces",
      label: "Angle counted from",
      help: "A flat face along the edge; without one, the edge's own",
      accepts: "plane",
      min: 0,
      max: 1,
      when: { key: "base", is: ["edge"] },
    },
    {
      key: "edge",
      kind: "edges",
      label: "Curve",
      accepts: "any",
      min: 1,
      max: 1,
      when: { key: "base", is: ["curve"] },
    },
    { key: "along", kind: "length", label: "Along it from where it begins", when: { key: "base", is: ["curve"] } },
    {
      key: "face",
      kind: "faces",
      label: "Cylinder",
      accepts: "cylinder",
      min: 1,
      max: 1,
      when: { key: "base", is: ["tangent"] },
    },
    {
      key: "faces",
      kind: "faces",
      label: "Two flat faces",
      accepts: "plane",
      min: 2,
      max: 2,
      when: { key: "base", is: ["midway"] },
    },
    { key: "otherHalf", kind: "toggle", label: "Halve the angle the other way", when: { key: "base", is: ["midway"] } },
    { key: "corners", kind: "corners", label: "Three corners", min: 3, max: 3, when: { key: "base", is: ["points"] } },
    {
      key: "corners",
      kind: "corners",
      label: "Through the corner",
      min: 1,
      max: 1,
      when: { key: "base", is: ["parallel"] },
    },
    { key: "angle", kind: "angle", label: "Angle", when: { key: "base", is: ["edge", "tangent"] } },
    { key: "offset", kind: "length", label: "Offset" },
    { key: "flip", kind: "toggle", label: "Front to the other side" },
  ],
  refs: (values) => {
    const used = usedFields(values);
    return [
      ...(used.includes("face") ? values.face.map((ref) => ref.body) : []),
      ...(used.includes("faces") ? values.faces.map((ref) => ref.body) : []),
      ...(used.includes("edge") ? values.edge.map((ref) => ref.body) : []),
      ...(used.includes("corners") ? values.corners.map((ref) => ref.body) : []),
      ...(used.includes("plane") ? values.plane : []),
    ];
  },
  resolved: (values) => {
    const used = usedFields(values);
    const only = (key: "face" | "faces" | "edge" | "corners" | "plane") => (used.includes(key) ? values[key] : []);
    return {
      base: values.base,
      face: only("face"),
      ...(used.length > 0
        ? {
            faces: only("faces"),
            edge: only("edge"),
            corners: only("corners"),
            plane: only("plane"),
            parallelTo: used.includes("parallelTo") ? values.parallelTo : null,
            angle: used.includes("angle") ? toRadians(values.angle) : 0,
            along: used.includes("along") ? toMm(values.along) : 0,
            otherHalf: used.includes("faces") && values.otherHalf,
          }
        : {}),
      offset: toMm(values.offset),
      flip: values.flip,
    };
  },
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

type PickKey = "face" | "faces" | "edge" | "corners" | "plane" | "angle" | "along" | "parallelTo";

/** The fields that a way of finding the plane looks at. */
function usedFields({ base, parallelTo }: Values): PickKey[] {
  switch (base) {
    case "face":
      return ["face"];
    case "workplane":
      return ["plane"];
    case "edge":
      return ["edge", "face", "angle"];
    case "points":
      return ["corners"];
    case "midway":
      return ["faces"];
    case "tangent":
      return ["face", "angle"];
    case "curve":
      return ["edge", "along"];
    case "parallel":
      return [
        "corners",
        "parallelTo",
        ...(parallelTo === "face" ? (["face"] as const) : []),
        ...(parallelTo === "workplane" ? (["plane"] as const) : []),
      ];
    default:
      return [];
  }
}

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
      if (along > facts.length + 1e-6)
        fail(
          "past-the-end",
          `The edge is ${formatLength(facts.length)} long, and ${formatLength(along)} along it is past its end. Give a smaller distance.`,
          { step, field: "along", bodies: [body.id] },
        );
      const { at, tangent } = alongEdge(body.shape, edge, Math.min(along, facts.length));
      return { origin: at, normal: tangent };
    }
    case "parallel": {
      const corner =
        values.corners[0] ?? fail("nothing-picked", "Pick the corner that the workplane goes through.", { step });
      const { normal } =
        values.parallelTo === "face"
          ? facePlane(values.face[0], "Pick the flat face that the workplane is parallel to.", context)
          : values.parallelTo === "workplane"
            ? otherPlane(values.plane, "Pick the workplane to start from.", context)
            : { normal: NORMALS[values.parallelTo] };
      return { origin: context.corner(corner), normal };
    }
    default:
      return { origin: [0, 0, 0], normal: NORMALS[values.base] };
  }
}

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
