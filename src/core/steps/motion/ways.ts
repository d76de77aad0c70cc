import type { Vec3 } from "../../kernel";
import type { Move } from "../../motion";
import type { Resolved } from "../../params";
import { toDegrees, toMm, toRadians } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import type { MotionValues } from "./values";

/** A move as it is written, its numbers worked out. */
export type PlainMove = Resolved<MotionValues>["moves"][number];

const nothing: Omit<PlainMove, "id"> = { how: "straight", by: [0, 0, 0], turn: 0, about: "face", through: [0, 0, 0] };

/** The moves of a way: its own, or those that a ready-made one consists of, which is asked for with fewer questions. */
export function movesOfWay(values: Omit<Resolved<MotionValues>, "axis">): PlainMove[] {
  const { way, towards } = values;
  const along = (id: string, mm: number): PlainMove => ({
    ...nothing,
    id,
    by: ["x", "y", "z"].map((axis) => (axis === towards ? mm : 0)) as [number, number, number],
  });
  const turned = (id: string, turn: number): PlainMove => ({ ...nothing, id, how: "turn", turn });
  switch (way) {
    case "moves":
      return values.moves;
    case "slide":
      return [along("in", toMm(values.depth))];
    case "lock": {
      const depth = toMm(values.depth);
      const back = toMm(values.back);
      const round = turned("round", toDegrees(values.angle));
      return [along("in", depth), round, ...(back === 0 ? [] : [along("back", -Math.sign(depth) * back)])];
    }
    case "swing": {
      // To one end, and from there to the other: it stands somewhere between.
      const [from, to] = [toDegrees(values.from), toDegrees(values.to)];
      return [...(from === 0 ? [] : [turned("from", from)]), turned("to", to - from)];
    }
  }
}

/** Turns by less move nothing, radians. */
const NO_TURN = 1e-9;

/** Moves as they go, without those that move nothing. @param axis the line that turns about a face go about. */
export function movesFrom(written: readonly PlainMove[], axis: () => { at: Vec3; axis: Vec3 }): Move[] {
  return written.flatMap(({ how, by, turn, about, through }): Move[] => {
    if (how === "straight") {
      const way = by.map(toMm) as unknown as Vec3;
      return Math.hypot(...way) < SAME_PLACE ? [] : [{ kind: "straight", by: way }];
    }
    const angle = toRadians(turn);
    if (Math.abs(angle) < NO_TURN) return [];
    const line = about === "face" ? axis() : { at: through.map(toMm) as unknown as Vec3, axis: AXES[about] };
    return [{ kind: "turn", ...line, angle }];
  });
}

const AXES: Record<"x" | "y" | "z", Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
