"use client";
import { useEffect, useState } from "react";
import { Triangle, Vector3 } from "three";
import { FormulaError, type ParameterScope, type Quantity, quantityValue } from "@/core/params";
import type { FaceRef } from "@/core/references";
import { isBodyView, type ViewMesh } from "@/engine/contract";
import { formatAngle, formatLength } from "../settings/format";
import { useFound, useJob, usePart, useScope, useWorkspace } from "../state/context";
import { notesOf } from "../state/notes";
import { PieceNumbers } from "./piece-numbers";
import type { ViewScene } from "./scene";

type Point = readonly [number, number, number];

/** What is drawn over the view: measured distances with their numbers, and the places of notes. */
export function ViewOverlay({ scene }: { scene: ViewScene | null }) {
  const [, tick] = useState(0);
  useEffect(() => scene?.onView(() => tick((n) => n + 1)), [scene]);
  const result = useWorkspace((state) => state.measuring?.result);
  const place = useWorkspace((state) => state.measuring?.place);
  const editing = useWorkspace((state) => state.editing);
  if (!scene) return null;
  if (editing?.step.type === "offset-sheet")
    return (
      <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
        <Ways scene={scene} />
      </svg>
    );
  if (editing?.step.type === "seam")
    return (
      <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
        <PieceNumbers scene={scene} />
      </svg>
    );
  if (editing) return null;
  if (place)
    return (
      <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
        <Flags scene={scene} />
        <Span scene={scene} from={place.from} to={place.to} mm={place.gap} />
      </svg>
    );
  const { nearest, apart, angle } = result?.between ?? {};
  // Where planes or axes are parallel, their distance says more than that of their nearest points.
  const span = apart ?? (nearest && nearest.mm > 1e-7 ? nearest : null);
  return (
    <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
      <Flags scene={scene} />
      {apart && nearest && nearest.mm > 1e-7 && Math.abs(nearest.mm - apart.mm) > 1e-6 ? (
        <Span scene={scene} from={nearest.from} to={nearest.to} mm={nearest.mm} dashed />
      ) : null}
      {span ? <Span scene={scene} from={span.from} to={span.to} mm={span.mm} /> : null}
      {!span && angle && nearest ? <Tag {...scene.project(nearest.from)} text={formatAngle(angle)} /> : null}
    </svg>
  );
}

function Span({
  scene,
  from,
  to,
  mm,
  dashed,
}: {
  scene: ViewScene;
  from: Point;
  to: Point;
  mm: number;
  dashed?: boolean;
}) {
  const unit = useJob((state) => state.job.units);
  const [a, b] = [scene.project(from), scene.project(to)];
  // The numbers of two distances side by side keep clear of each other.
  const share = dashed ? 0.25 : 0.5;
  const long = Math.max(1e-6, Math.hypot(b.x - a.x, b.y - a.y));
  // Short strokes across both ends, as a draughtsman ends a dimension.
  const [nx, ny] = [(-(b.y - a.y) / long) * 6, ((b.x - a.x) / long) * 6];
  return (
    <g data-measured={mm.toFixed(6)}>
      <g stroke="var(--paper)" strokeWidth={5} opacity={0.8}>
        <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
      </g>
      <g stroke="var(--pick)" strokeWidth={2} strokeDasharray={dashed ? "5 4" : undefined}>
        <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} />
        <line x1={a.x - nx} y1={a.y - ny} x2={a.x + nx} y2={a.y + ny} />
        <line x1={b.x - nx} y1={b.y - ny} x2={b.x + nx} y2={b.y + ny} />
      </g>
      <Tag x={a.x + (b.x - a.x) * share} y={a.y + (b.y - a.y) * share} text={formatLength(mm, unit)} />
    </g>
  );
}

function Tag({ x, y, text }: { x: number; y: number; text: string }) {
  const width = text.length * 7.6 + 12;
  return (
    <g>
      <rect x={x - width / 2} y={y - 11} width={width} height={22} rx={3} fill="var(--sheet)" stroke="var(--pick)" />
      <text x={x} y={y + 4.5} textAnchor="middle" className="num" fontSize={13} fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

/** The place on a face's mesh that is nearest to its middle: the middle itself of a round face lies in the air. */
function pointOn(mesh: ViewMesh | undefined, face: number, middle: Point): Point {
  return mesh ? skinAt(mesh, face, middle).at : middle;
}

/** That place, with the way in which the face looks there. */
function skinAt(mesh: ViewMesh, face: number, middle: Point): { at: Point; normal: Point } {
  const [first, count] = [mesh.faceRanges[2 * face]!, mesh.faceRanges[2 * face + 1]!];
  const wanted = new Vector3(...middle);
  const corner = (i: number) => new Vector3().fromArray(mesh.positions, 3 * mesh.indices[i]!);
  let [best, least, way] = [wanted, Number.POSITIVE_INFINITY, new Vector3(0, 0, 1)];
  for (let i = first; i < first + count; i += 3) {
    const triangle = new Triangle(corner(i), corner(i + 1), corner(i + 2));
    const at = triangle.closestPointToPoint(wanted, new Vector3());
    const away = at.distanceToSquared(wanted);
    if (away < least) [best, least, way] = [at, away, triangle.getNormal(new Vector3())];
  }
  return { at: [best.x, best.y, best.z], normal: [way.x, way.y, way.z] };
}

/** Which way a sheet goes off each picked face, before it is kept: outwards where the distance is above 0. */
function Ways({ scene }: { scene: ViewScene }) {
  const editing = useWorkspace((state) => state.editing);
  const found = useFound();
  const scope = useScope();
  const items = useWorkspace((state) => state.evaluation?.before ?? state.evaluation?.items);
  const meshes = useWorkspace((state) => state.meshes);
  const distance = signOf(editing?.step.distance as Quantity, scope);
  if (!editing || distance === null) return null;
  return (editing.step.faces as FaceRef[]).flatMap((ref) => {
    const now = found.part(ref)?.now;
    const body = items?.filter(isBodyView).find(({ id, step }) => id === now?.body || step === now?.body);
    const face = body?.faces.findIndex(({ name }) => name === now?.face) ?? -1;
    const mesh = body && meshes.get(body.meshId);
    if (!body || !mesh || face < 0) return [];
    const { at, normal } = skinAt(mesh, face, body.faces[face]!.centre);
    const a = scene.project(at);
    const tip = at.map((value, k) => value + normal[k]! * (distance < 0 ? -1 : 1)) as unknown as Point;
    const b = scene.project(tip);
    const long = Math.hypot(b.x - a.x, b.y - a.y);
    // Seen end-on there is nothing to be drawn: a ring says that it comes or goes.
    if (long < 1e-3)
      return [<circle key={ref.face} cx={a.x} cy={a.y} r={6} fill="none" stroke="var(--pick)" strokeWidth={2} />];
    const [x, y] = [(b.x - a.x) / long, (b.y - a.y) / long];
    const end = [a.x + x * 46, a.y + y * 46] as const;
    return [
      <g key={ref.face} data-way={distance < 0 ? "in" : "out"} stroke="var(--pick)" fill="none" strokeWidth={2.2}>
        <line x1={a.x} y1={a.y} x2={end[0]} y2={end[1]} />
        <path
          d={`M${end[0] - x * 11 - y * 5} ${end[1] - y * 11 + x * 5}L${end[0]} ${end[1]}L${end[0] - x * 11 + y * 5} ${end[1] - y * 11 - x * 5}`}
        />
      </g>,
    ];
  });
}

/** 1, −1, or 0 as a value comes out; null where it comes to nothing yet. */
function signOf(value: Quantity, scope: ParameterScope): number | null {
  try {
    return Math.sign(quantityValue(value, "length", scope));
  } catch (cause) {
    if (cause instanceof FormulaError) return null;
    throw cause;
  }
}

/** A numbered flag where a note on a face is, of the selected body; of others a plain one. */
function Flags({ scene }: { scene: ViewScene }) {
  const part = usePart();
  const found = useFound();
  const items = useWorkspace((state) => state.evaluation?.items);
  const selected = useWorkspace((state) => state.selected);
  const hidden = useWorkspace((state) => state.hidden);
  const alone = useWorkspace((state) => state.alone);
  const meshes = useWorkspace((state) => state.meshes);
  if (part.notes.length === 0) return null;
  const shown = (items ?? []).filter(isBodyView).filter(({ id }) => (alone !== null ? alone === id : !hidden.has(id)));
  return shown.flatMap((body) =>
    notesOf(part, body, found).map(({ note, face }, number) => {
      const box = body.measures.box;
      const at: Point | null =
        face !== null
          ? pointOn(meshes.get(body.meshId), face, body.faces[face]!.centre)
          : box && [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2, box.max[2]];
      if (!at) return null;
      const { x, y } = scene.project(at);
      return (
        <g key={note.id} data-note={note.id}>
          <path d={`M${x} ${y}v-26`} stroke="var(--ink)" strokeWidth={1.5} />
          <path d={`M${x} ${y - 26}h22l-4 8 4 8h-22z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.2} />
          {selected === body.id ? (
            <text x={x + 5} y={y - 14} fontSize={12} className="num" fill="var(--ink)">
              {number + 1}
            </text>
          ) : null}
        </g>
      );
    }),
  );
}
