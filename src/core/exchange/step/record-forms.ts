import { type Part21Record, pointers, splitArguments } from "./part21";

/** What a record is good for, where others point to it. */
type Role =
  | "point"
  | "direction"
  | "vector"
  | "place2"
  | "place3"
  | "axis"
  | "curve"
  | "surface"
  | "pcurve"
  | "vertex"
  | "edge"
  | "use"
  | "loop"
  | "bound"
  | "face"
  | "shell"
  | "solid"
  | "other";

/** One argument of a record: its text is fit, or it points to something of these roles. */
type Argument = ((text: string) => boolean) | { roles: readonly Role[]; list?: "some" | "any" };

const any = () => true;
const NUMBER = /^[-+]?(?:\d+\.?\d*|\.\d+)(?:E[-+]?\d+)?$/i;
const isReal = (text: string) => NUMBER.test(text);
/** A length that is one: shorter, and the library loses itself. */
const isLength = (text: string) => isReal(text) && Number(text) > 1e-9;
const isFlag = (text: string) => /^\.[TFU]\.$/i.test(text);
const isRealList = (text: string, least: number, most: number) => {
  const inner = /^\(([^()]*)\)$/.exec(text)?.[1]?.split(",");
  return inner !== undefined && inner.length >= least && inner.length <= most && inner.every((x) => isReal(x.trim()));
};
const place = (text: string) => isRealList(text, 1, 3);
const way = (text: string) => isRealList(text, 2, 3) && /[1-9]/.test(text.replace(/E[-+]?\d+/gi, ""));
const to = (...roles: Role[]): Argument => ({ roles });
const listOf = (...roles: Role[]): Argument => ({ roles, list: "some" });
/** A whole ball or ring may come without an edge. */
const bounds: Argument = { roles: ["bound"], list: "any" };

const ROUND_3D = [any, to("place3", "place2")];

/**
 * How the records of exact bodies are made up, as ISO 10303-42 has them: what a record is good for, and its arguments. Only
 * what a reader relies on is asked for, and only of records that are listed: what is not known here is left to the
 * library.
 */
const FORMS: Record<string, { role: Role; form?: readonly Argument[] }> = {
  CARTESIAN_POINT: { role: "point", form: [any, place] },
  DIRECTION: { role: "direction", form: [any, way] },
  VECTOR: { role: "vector", form: [any, to("direction"), isLength] },
  AXIS1_PLACEMENT: { role: "axis", form: [any, to("point")] },
  AXIS2_PLACEMENT_2D: { role: "place2", form: [any, to("point")] },
  AXIS2_PLACEMENT_3D: { role: "place3", form: [any, to("point")] },
  LINE: { role: "curve", form: [any, to("point"), to("vector")] },
  CIRCLE: { role: "curve", form: [...ROUND_3D, isLength] },
  ELLIPSE: { role: "curve", form: [...ROUND_3D, isLength, isLength] },
  HYPERBOLA: { role: "curve", form: [...ROUND_3D, isLength, isLength] },
  PARABOLA: { role: "curve", form: [...ROUND_3D, isLength] },
  TRIMMED_CURVE: { role: "curve" },
  COMPOSITE_CURVE: { role: "curve" },
  POLYLINE: { role: "curve", form: [any, listOf("point")] },
  B_SPLINE_CURVE_WITH_KNOTS: { role: "curve" },
  BEZIER_CURVE: { role: "curve" },
  QUASI_UNIFORM_CURVE: { role: "curve" },
  UNIFORM_CURVE: { role: "curve" },
  SURFACE_CURVE: { role: "curve", form: [any, to("curve")] },
  SEAM_CURVE: { role: "curve", form: [any, to("curve")] },
  INTERSECTION_CURVE: { role: "curve", form: [any, to("curve")] },
  PCURVE: { role: "pcurve", form: [any, to("surface")] },
  PLANE: { role: "surface", form: ROUND_3D },
  CYLINDRICAL_SURFACE: { role: "surface", form: [...ROUND_3D, isLength] },
  CONICAL_SURFACE: { role: "surface", form: [...ROUND_3D, (text) => isReal(text) && Number(text) >= 0, isReal] },
  SPHERICAL_SURFACE: { role: "surface", form: [...ROUND_3D, isLength] },
  TOROIDAL_SURFACE: { role: "surface", form: [...ROUND_3D, isReal, isLength] },
  DEGENERATE_TOROIDAL_SURFACE: { role: "surface", form: [...ROUND_3D, isReal, isLength, isFlag] },
  SURFACE_OF_LINEAR_EXTRUSION: { role: "surface", form: [any, to("curve"), to("vector")] },
  SURFACE_OF_REVOLUTION: { role: "surface", form: [any, to("curve"), to("axis")] },
  B_SPLINE_SURFACE_WITH_KNOTS: { role: "surface" },
  BEZIER_SURFACE: { role: "surface" },
  OFFSET_SURFACE: { role: "surface", form: [any, to("surface"), isReal] },
  RECTANGULAR_TRIMMED_SURFACE: { role: "surface", form: [any, to("surface"), isReal, isReal, isReal, isReal] },
  VERTEX_POINT: { role: "vertex", form: [any, to("point")] },
  EDGE_CURVE: { role: "edge", form: [any, to("vertex"), to("vertex"), to("curve"), isFlag] },
  ORIENTED_EDGE: { role: "use", form: [any, any, any, to("edge", "use"), isFlag] },
  EDGE_LOOP: { role: "loop", form: [any, listOf("use", "edge")] },
  VERTEX_LOOP: { role: "loop", form: [any, to("vertex")] },
  POLY_LOOP: { role: "loop", form: [any, listOf("point")] },
  FACE_BOUND: { role: "bound", form: [any, to("loop"), isFlag] },
  FACE_OUTER_BOUND: { role: "bound", form: [any, to("loop"), isFlag] },
  ADVANCED_FACE: { role: "face", form: [any, bounds, to("surface"), isFlag] },
  FACE_SURFACE: { role: "face", form: [any, bounds, to("surface"), isFlag] },
  OPEN_SHELL: { role: "shell", form: [any, listOf("face")] },
  CLOSED_SHELL: { role: "shell", form: [any, listOf("face")] },
  ORIENTED_CLOSED_SHELL: { role: "shell", form: [any, any, to("shell"), isFlag] },
  MANIFOLD_SOLID_BREP: { role: "solid", form: [any, to("shell")] },
  FACETED_BREP: { role: "solid", form: [any, to("shell")] },
  BREP_WITH_VOIDS: { role: "solid", form: [any, to("shell"), listOf("shell")] },
  SHELL_BASED_SURFACE_MODEL: { role: "other", form: [any, listOf("shell")] },
  PRODUCT: { role: "other" },
  PRODUCT_DEFINITION: { role: "other" },
  DEFINITIONAL_REPRESENTATION: { role: "other" },
};

/** The records that are not made up as their kind is: a number that is none, a pointer to something of another kind. */
export function misshapen(records: readonly Part21Record[]): number[] {
  const roles = new Map<number, Role>();
  for (const { id, types } of records) {
    const known = types.length === 1 ? FORMS[types[0]!] : undefined;
    if (known) roles.set(id, known.role);
  }
  return records.filter((record) => !isFit(record, roles)).map(({ id }) => id);
}

function isFit({ types, body }: Part21Record, roles: ReadonlyMap<number, Role>): boolean {
  const form = types.length === 1 ? FORMS[types[0]!]?.form : undefined;
  if (!form) return true;
  const given = splitArguments(body);
  return form.every((argument, i) => {
    const text = given[i];
    if (text === undefined) return false;
    if (typeof argument === "function") return argument(text);
    const targets = pointers(text);
    if (targets.length === 0) return argument.list === "any" && /^\(\s*\)$/.test(text);
    if (!argument.list && (targets.length > 1 || text[0] !== "#")) return false;
    // What is not listed may be anything.
    return targets.every((id) => !roles.has(id) || argument.roles.includes(roles.get(id)!));
  });
}
