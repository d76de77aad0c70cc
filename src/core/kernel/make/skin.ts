import { volumeOf } from "../facts/mass";
import { isValid, openPlaces } from "../facts/measure";
import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, facesOf, freeShape, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";
import { add, distance, dot, scale, sub, type Vec3 } from "../space/vectors";
import { type GuidePiece, railOf, spansAlong } from "./guides";
import type { LoftFace, LoftOutline } from "./loft";
import { compatible, curveOf, grevilleOf, type Spline, splineOf, surfaceFace, type Vec4 } from "./nurbs";
import { edgesOf, planarFace } from "./outline";
import { cornersOf } from "./section-match";

/** How a skin leaves its first section and comes to its last: square to their planes, so strongly (mm), or freely (null). */
export interface SkinEnds {
  start: number | null;
  end: number | null;
}

/**
 * The smooth skin through sections with matching curves (`matchOutlines`), exact at each section: between them, cubic in
 * the poles. Where it follows guides, their difference to its own corner lines is added, spread evenly over each face.
 * A side that a guide gives a corner at a section is divided there.
 * @param guides for each corner, what it follows from section to section.
 */
export function skinThrough(
  sections: readonly LoftOutline[],
  ends: SkinEnds,
  guides: readonly (readonly GuidePiece[] | null)[],
  solid: boolean,
): { shape: Shape; faces: LoftFace[] } {
  return scoped((scope) => {
    const oc = lib();
    const count = sections[0]!.outline.length;
    const edges = sections.map(({ frame, places, stretches }) => edgesOf(scope, frame, places, stretches));
    const tangents = endTangents(sections, ends);
    const spans = spansAlong(guides) ?? spansOf(sections);
    const rails = guides.map((pieces) => pieces && railOf(scope, pieces, spans));
    const breaks = [...new Set(rails.flatMap((rail) => rail?.breaks ?? []))].sort((a, b) => a - b);
    const faces: { face: Shape; is: LoftFace }[] = [];
    for (let side = 0; side < count; side++) {
      const rows = compatible(
        scope,
        sections.map(({ outline }, s) => {
          const { stretch, forwards } = outline[side]!;
          return splineOf(scope, asEdge(scope, edges[s]![stretch]!), forwards);
        }),
      );
      const columns = rows[0]!.poles.map((_, u) =>
        columnOf(
          rows.map(({ poles }) => poles[u]!),
          spans,
          tangents,
        ),
      );
      const own = [columns[0]!, columns.at(-1)!];
      const followed = own.map((column, i) => rails[(side + i) % count]?.spline ?? column);
      // Columns, their corner lines and the guides get one set of knots along the skin.
      const all = compatible(
        scope,
        [...columns, ...own, ...followed].map((spline) => curveOf(scope, spline)),
      );
      const [grown, rest] = [all.slice(0, columns.length), all.slice(columns.length)];
      const greville = grevilleOf(rows[0]!);
      const poles = grown.map(({ poles: column }, u) =>
        column.map((pole, v): Vec4 => {
          const share = greville[u]!;
          const off = [0, 1, 2].map(
            (k) =>
              (1 - share) * (rest[2]!.poles[v]![k]! - rest[0]!.poles[v]![k]!) +
              share * (rest[3]!.poles[v]![k]! - rest[1]!.poles[v]![k]!),
          );
          return [pole[0] + off[0]!, pole[1] + off[1]!, pole[2] + off[2]!, pole[3]];
        }),
      );
      const ends = [0, ...breaks, sections.length - 1];
      const knots = knotsOf(spans);
      for (const [i, to] of ends.slice(1).entries()) {
        const from = ends[i]!;
        const strip = stripOf(poles, grown[0]!, knots[from]!, knots[to]!);
        const { stretch } = sections[from]!.outline[side]!;
        faces.push({ face: surfaceFace(scope, strip.poles, rows[0]!, strip.along), is: { section: from, stretch } });
      }
    }
    const caps = solid
      ? [0, sections.length - 1].map((s) => planarFace(scope, sections[s]!.frame, edges[s]!, sections[s]!.outline, []))
      : [];
    const sewing = scope.use(new oc.BRepBuilderAPI_Sewing(1e-6, true, true, true, false));
    for (const face of [...faces.map((one) => one.face), ...caps]) sewing.Add(face);
    sewing.Perform(scope.use(new oc.Message_ProgressRange()));
    const sewn = scope.use(sewing.SewedShape());
    const shells = subshapes(scope, sewn, "shell");
    const shape = solid ? solidOf(scope, shells) : shellOf(subshapes(scope, sewn, "face"));
    if (!isValid(shape) || (solid && openPlaces(shape).length > 0)) {
      freeShape(shape);
      throw new KernelFault("The sections make no sound skin.", false);
    }
    const known = new ShapeMap<LoftFace>();
    const note = (face: Shape, is: LoftFace): void => {
      known.set(scope.use(sewing.ModifiedSubShape(face)), is);
    };
    for (const { face, is } of faces) note(face, is);
    for (const [i, cap] of caps.entries()) note(cap, i === 0 ? "base" : "end");
    return { shape, faces: facesOf(shape).map((face) => known.get(face) ?? { section: 0, stretch: 0 }) };
  });
}

function solidOf(scope: Scope, shells: readonly Shape[]): Shape {
  const oc = lib();
  if (shells.length !== 1) throw new KernelFault("The sections make no closed skin.", false);
  const maker = scope.use(new oc.BRepBuilderAPI_MakeSolid(oc.TopoDS.Shell(shells[0]!)));
  const solid = scope.use(maker.Solid());
  return volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
}

/** The mean distance between corners of neighbouring sections: how far the skin's parameter runs there. */
function spansOf(sections: readonly LoftOutline[]): number[] {
  const corners = sections.map(cornersOf);
  return corners
    .slice(1)
    .map((list, s) => list.reduce((sum, at, i) => sum + distance(at, corners[s]![i]!), 0) / list.length);
}

/** The directions in which the skin leaves its first section and comes to its last, each as long as asked for. */
function endTangents(sections: readonly LoftOutline[], { start, end }: SkinEnds): [Vec3 | null, Vec3 | null] {
  const middle = (section: LoftOutline): Vec3 => {
    const corners = cornersOf(section);
    return scale(
      corners.reduce((a, b) => add(a, b)),
      1 / corners.length,
    );
  };
  const along = (from: LoftOutline, to: LoftOutline, at: LoftOutline, reach: number): Vec3 => {
    const way = sub(middle(to), middle(from));
    return scale(at.frame.normal, reach * (dot(way, at.frame.normal) < 0 ? -1 : 1));
  };
  const [first, second] = sections;
  const [beforeLast, last] = sections.slice(-2);
  return [
    start === null ? null : along(first!, second!, first!, start),
    end === null ? null : along(beforeLast!, last!, last!, end),
  ];
}

const combine = (...terms: [Vec4, number][]): Vec4 =>
  [0, 1, 2, 3].map((k) => terms.reduce((sum, [pole, share]) => sum + pole[k]! * share, 0)) as Vec4;

/** A pole's way through the sections: cubic pieces that join smoothly, in the poles' homogeneous coordinates. */
function columnOf(rows: readonly Vec4[], spans: readonly number[], [start, end]: [Vec3 | null, Vec3 | null]): Spline {
  const last = rows.length - 1;
  const inner = rows.map((_, s): Vec4 => {
    if (s === 0 || s === last) return [0, 0, 0, 0];
    const both = spans[s - 1]! + spans[s]!;
    return combine([rows[s + 1]!, 1 / both], [rows[s - 1]!, -1 / both]);
  });
  // A square end has a length of its own; a free one bends no more than it has to.
  const square = (way: Vec3, { 3: weight }: Vec4, span: number): Vec4 => [
    (way[0] * weight) / span,
    (way[1] * weight) / span,
    (way[2] * weight) / span,
    0,
  ];
  const free = (from: Vec4, to: Vec4, span: number, other: Vec4 | null): Vec4 =>
    other ? combine([to, 1.5 / span], [from, -1.5 / span], [other, -0.5]) : combine([to, 1 / span], [from, -1 / span]);
  const [firstSpan, lastSpan] = [spans[0]!, spans.at(-1)!];
  const given = {
    first: start && square(start, rows[0]!, firstSpan),
    last: end && square(end, rows[last]!, lastSpan),
  };
  const slopes = [...inner];
  slopes[0] = given.first ?? free(rows[0]!, rows[1]!, firstSpan, last > 1 ? inner[1]! : given.last);
  slopes[last] = given.last ?? free(rows[last - 1]!, rows[last]!, lastSpan, last > 1 ? inner[last - 1]! : given.first);
  const poles: Vec4[] = [rows[0]!];
  spans.forEach((span, s) => {
    poles.push(
      combine([rows[s]!, 1], [slopes[s]!, span / 3]),
      combine([rows[s + 1]!, 1], [slopes[s + 1]!, -span / 3]),
      rows[s + 1]!,
    );
  });
  const knots = knotsOf(spans);
  return { degree: 3, knots, mults: knots.map((_, k) => (k === 0 || k === knots.length - 1 ? 4 : 3)), poles };
}

/** The skin's parameter at each section. */
function knotsOf(spans: readonly number[]): number[] {
  const total = spans.reduce((a, b) => a + b, 0);
  const knots = [0];
  for (const span of spans) knots.push(knots.at(-1)! + span / total);
  return knots;
}

/** The part of a side between two sections, at which its knots are full: its columns run through a pole there. */
function stripOf(poles: readonly (readonly Vec4[])[], along: Spline, from: number, to: number) {
  const { degree, knots, mults } = along;
  const near = (knot: number) => knots.findIndex((known) => Math.abs(known - knot) < 1e-9);
  const [first, last] = [near(from), near(to)];
  const poleAt = (k: number) => (k === 0 ? 0 : mults.slice(0, k + 1).reduce((sum, mult) => sum + mult, 0) - degree - 1);
  const [start, end] = [poleAt(first), last === knots.length - 1 ? poles[0]!.length - 1 : poleAt(last)];
  const range = { first: knots[first]!, last: knots[last]! };
  const inside = knots.slice(first, last + 1);
  return {
    poles: poles.map((column) => column.slice(start, end + 1)),
    along: {
      degree,
      knots: inside.map((knot) => (knot - range.first) / (range.last - range.first)),
      mults: inside.map((_, k) => (k === 0 || k === inside.length - 1 ? degree + 1 : mults[first + k]!)),
      poles: [],
    } satisfies Spline,
  };
}
