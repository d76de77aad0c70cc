import { fail } from "../../errors";
import { type Body, has, type Item, type SketchItem } from "../../items";
import {
  add,
  allFaceFacts,
  type Box,
  boxOf,
  cross,
  facesOf,
  freeShape,
  inSpace,
  looseBoxOf,
  makeBox,
  type Shape,
  scale,
  squareTo,
  sub,
  type Vec3,
  wholeFace,
} from "../../kernel";
import { type Endless, MOST_PLANES, roomFor } from "../../seam";
import { curvesOf, boxOf as flatBoxOf, openWays, type Vec2 } from "../../sketch";
import type { StepContext } from "../evaluation";

/** A single face of a body, by place. */
interface Face {
  body: Body;
  face: number;
}

/**
 * The room in which everything lies that these things can enclose, as a body: it is no stock. Its shape goes to `owned`.
 * @param runOn whether single faces and open drawings go on past where they end.
 * @returns null where they enclose nothing, as one plane alone.
 */
export function roomAround(
  items: readonly Item[],
  faces: readonly Face[],
  runOn: boolean,
  owned: Shape[],
  { step }: StepContext,
): Body | null {
  const boxes = items.flatMap((item) => (has(item, "body") ? (looseBoxOf(item.shape) ?? []) : []));
  const planes = items.flatMap((item): Endless[] =>
    has(item, "plane") ? [item] : has(item, "drawn") ? endsOfDrawing(item, runOn) : [],
  );
  for (const { body, face } of faces) boxes.push(boxOf(facesOf(body.shape)[face]!)!);
  if (runOn) for (const face of faces) planes.push(...endsOfSurface(face));
  if (planes.length > MOST_PLANES)
    fail(
      "too-many",
      `What encloses is followed through up to ${MOST_PLANES} planes, and these are ${planes.length}. Leave some out.`,
      { step },
    );
  if (runOn) boxes.push(...boxesOfWhole(faces, roomFor(boxes, planes)));
  const room = roomFor(boxes, planes);
  if (!room) return null;
  const shape = makeBox(room.min, sub(room.max, room.min));
  owned.push(shape);
  return {
    id: ROOM,
    kind: "solid",
    shape,
    faces: facesOf(shape).map((_, i) => `${ROOM}:${i}`),
    hint: { text: "Room" },
  };
}

/** No item can have this id. */
const ROOM = " room";

/** A drawing goes on for ever square to its plane: the planes that hold it between them, and those along which open ends run on. */
function endsOfDrawing({ frame, entities }: SketchItem, runOn: boolean): Endless[] {
  const curves = curvesOf(entities);
  if (curves.length === 0) return [];
  const y = cross(frame.normal, frame.x);
  const boxes = curves.map(flatBoxOf);
  const low = cornerOf(
    boxes.map(({ min }) => min),
    Math.min,
  );
  const high = cornerOf(
    boxes.map(({ max }) => max),
    Math.max,
  );
  const held = [low, high].flatMap((corner) =>
    [frame.x, y].map((normal) => ({ origin: inSpace(frame, corner), normal })),
  );
  if (!runOn) return held;
  const onwards = openWays(curves).map(({ from, way: [u, v] }) => ({
    origin: inSpace(frame, from),
    normal: cross(add(scale(frame.x, u), scale(y, v)), frame.normal),
  }));
  return [...held, ...onwards];
}

const cornerOf = (points: readonly Vec2[], best: (...values: number[]) => number): Vec2 => [
  best(...points.map(([u]) => u)),
  best(...points.map(([, v]) => v)),
];

/** A flat face runs on as its plane, a round one along its axis, between planes beside it. */
function endsOfSurface({ body, face }: Face): Endless[] {
  const { kind, centre, direction, radius, axisAt } = allFaceFacts(body.shape)[face]!;
  if (kind === "plane") return [{ origin: centre, normal: direction! }];
  if (kind !== "cylinder") return [];
  const x = squareTo(direction!);
  return [x, cross(direction!, x)].flatMap((normal: Vec3) =>
    [radius!, -radius!].map((by) => ({ origin: add(axisAt!, scale(normal, by)), normal })),
  );
}

/** What other faces reach when they run on: a ball and a ring as a whole, a cone and a free one as far as the room asks. */
function boxesOfWhole(faces: readonly Face[], room: Box | null): Box[] {
  return faces.flatMap(({ body, face }) => {
    if (!room || ["plane", "cylinder"].includes(allFaceFacts(body.shape)[face]!.kind)) return [];
    const whole = wholeFace(body.shape, face, room);
    if (!whole) return [];
    const box = looseBoxOf(whole);
    freeShape(whole);
    return box ?? [];
  });
}
