import { allFaceFacts, cross, dot, facesOf, length, type Shape, type Vec3 } from "../../kernel";
import { incidenceOf } from "../../kernel/library/incidence";
import { counted } from "../../words";
import { type CheckedBody, runs } from "../check-run";
import type { Band, Found } from "../declare";
import { draftCheck } from "./declare";

const DEGREES = 180 / Math.PI;
/** Degrees: what leans by less has no draft. The kernel's own angles are right to about 1e-10. */
const STRAIGHT = 1e-4;

export const runDraft = runs(draftCheck, ({ along, flip, least }, bodies) => {
  const sign = flip ? -1 : 1;
  const way = [along === "x" ? sign : 0, along === "y" ? sign : 0, along === "z" ? sign : 0] as unknown as Vec3;
  const name = `${flip ? "−" : "+"}${along.toUpperCase()}`;
  const faces = bodies.flatMap((one) => facesLeaning(one, way));
  const found = faces
    .map(({ body, label, place, kind, low, high, within }): Found & { worst: number } => {
      const verdict = verdictOf(low, high, within, least);
      return {
        cells: [label, kind, { angles: [low, high], within }, verdict.words],
        body,
        faces: [place],
        edges: [],
        bad: verdict.bad,
        worst: low > 0 ? low : high < 0 ? -high : 0,
      };
    })
    .sort((a, b) => Number(b.bad) - Number(a.bad) || a.worst - b.worst)
    .map(({ worst: _worst, ...line }) => line);
  const bad = found.filter((line) => line.bad).length;
  const unsure = found.filter(({ cells }) => cells.at(-1) === "may be too little").length;
  const turning = faces.filter(({ low, high }) => low < -STRAIGHT && high > STRAIGHT).length;
  const rough = Math.max(0, ...faces.map(({ within }) => within));
  return {
    summary:
      (bad === 0
        ? `All ${counted(faces.length, "face")} have ${least}° of draft or more towards ${name}, or away from it.`
        : `${bad} of ${counted(faces.length, "face")} have less than ${least}° of draft to ${name}${unsure > 0 ? `, or may have: ${unsure} cannot be told from the mesh` : ""}.`) +
      (turning > 0
        ? ` ${counted(turning, "face")} lean${turning === 1 ? "s" : ""} both ways: the parting line runs over ${turning === 1 ? "it" : "them"}.`
        : ""),
    good: bad === 0,
    ...(rough > 0
      ? {
          note: `Curved faces are read at the corners of their mesh: to within ${rough.toFixed(1)}° at the most. Flat ones are exact.`,
        }
      : {}),
    columns: ["Body", "Face", "Leans by", ""],
    found,
    lit: [],
    bands: bandsOf(least, name),
    paint: bodies.map(({ body, meshId, mesh }) => ({ body: body.id, meshId, values: leans(mesh.normals, way) })),
  };
});

/** Degrees that the surface leans towards the direction, for each corner of a mesh: 90 where it faces it. */
function leans(normals: Float32Array, way: Vec3): Float32Array {
  return Float32Array.from({ length: normals.length / 3 }, (_, i) =>
    lean([normals[3 * i]!, normals[3 * i + 1]!, normals[3 * i + 2]!], way),
  );
}

const lean = (normal: Vec3, way: Vec3): number => Math.asin(Math.min(1, Math.max(-1, dot(normal, way)))) * DEGREES;

interface LeaningFace {
  body: string;
  label: string;
  place: number;
  kind: string;
  low: number;
  high: number;
  /** Degrees that both may be off by. */
  within: number;
}

/** How far each face of a body leans at the least and at the most. */
function facesLeaning({ body, name, mesh }: CheckedBody, way: Vec3): LeaningFace[] {
  const facts = allFaceFacts(body.shape);
  const values = leans(mesh.normals, way);
  return facesOf(body.shape).map((_, place): LeaningFace => {
    const { kind, direction } = facts[place]!;
    const common = { body: body.id, label: name, place, kind };
    if (kind === "plane" && direction) {
      const flat = lean(direction, way);
      return { ...common, low: flat, high: flat, within: 0 };
    }
    const first = mesh.faceRanges[2 * place]!;
    const corners = mesh.indices.subarray(first, first + mesh.faceRanges[2 * place + 1]!);
    let [low, high] = [90, -90];
    for (const corner of corners) {
      low = Math.min(low, values[corner]!);
      high = Math.max(high, values[corner]!);
    }
    return { ...common, low, high, within: within(body.shape, place, way, low, high, spread(mesh.normals, corners)) };
  });
}

/**
 * How far the least and the most may lie beyond what the corners show, degrees. Round a cylinder or a cone the sine of the lean is a
 * cosine of the angle u about the axis times c, the cosine of half the angle at the tip (1 for a cylinder), and its extremes are flat:
 * from the middle between two corners it falls by c (1 − cos ½Δu), where the normals turn by a step with 1 − cos step = c² (1 − cos Δu).
 * On any other surface the lean changes by no more than the normal turns, and no place of a triangle is farther from a corner than 1/√3 of
 * its longest side.
 */
function within(shape: Shape, place: number, way: Vec3, low: number, high: number, step: number): number {
  const { surface } = incidenceOf(shape).faces[place]!;
  if (surface?.kind !== "cylinder" && surface?.kind !== "cone") return step / Math.sqrt(3);
  const across = length(cross(way, surface.axis as Vec3));
  const c = surface.kind === "cone" ? Math.cos(surface.half) : 1;
  const round = Math.acos(Math.max(-1, 1 - (1 - Math.cos(step / DEGREES)) / (c * c)));
  const beyond = across * c * (1 - Math.cos(round / 2));
  if (beyond < 1e-12) return 0;
  const leanOf = (sine: number) => Math.asin(Math.min(1, Math.max(-1, sine))) * DEGREES;
  const sine = (angle: number) => Math.sin(angle / DEGREES);
  return Math.max(leanOf(sine(high) + beyond) - high, low - leanOf(sine(low) - beyond));
}

/** The largest angle between the normals at two corners of one triangle, degrees: between them a lean changes by no more. */
function spread(normals: Float32Array, corners: Uint32Array): number {
  let least = 1;
  const between = (a: number, b: number) =>
    normals[3 * a]! * normals[3 * b]! +
    normals[3 * a + 1]! * normals[3 * b + 1]! +
    normals[3 * a + 2]! * normals[3 * b + 2]!;
  for (let t = 0; t < corners.length; t += 3)
    for (const [a, b] of [
      [0, 1],
      [1, 2],
      [2, 0],
    ] as const)
      least = Math.min(least, between(corners[t + a]!, corners[t + b]!));
  return Math.acos(Math.max(-1, least)) * DEGREES;
}

/** What is said of a face, and whether it has to be looked at: also where what was read may be off by too much to tell. */
function verdictOf(low: number, high: number, within: number, least: number): { words: string; bad: boolean } {
  if (Math.abs(low) < STRAIGHT && Math.abs(high) < STRAIGHT && within < STRAIGHT)
    return { words: "none: straight", bad: least > 0 };
  if (low < -STRAIGHT && high > STRAIGHT) return { words: "leans both ways", bad: false };
  const nearest = low >= -STRAIGHT ? Math.max(low, 0) : Math.max(-high, 0);
  if (nearest < least - STRAIGHT) return { words: "too little", bad: true };
  return nearest - within < least - STRAIGHT
    ? { words: "may be too little", bad: true }
    : { words: "enough", bad: false };
}

/** The scale: away from the direction with enough draft, with too little, none, and the same towards it. */
function bandsOf(least: number, name: string): Band[] {
  return [
    { to: -least, words: `away from ${name}, enough`, tone: "away" },
    { to: -STRAIGHT, words: `away from ${name}, too little`, tone: "away-little" },
    { to: STRAIGHT, words: "none: straight", tone: "none" },
    { to: least, words: `towards ${name}, too little`, tone: "towards-little" },
    { to: null, words: `towards ${name}, enough`, tone: "towards" },
  ];
}
