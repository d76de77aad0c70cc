import { inSpace, type PlaneFrame } from "@/core/kernel/space/plane-frame";
import type { Curve, Vec2 } from "@/core/sketch";
import { pointAt } from "@/core/sketch";
import { directionName } from "../viewport/direction-words";
import type { PlaneMap } from "./plane-map";

interface MarkProps {
  loose: boolean;
  picked: boolean;
  /** Whether it can be picked now. */
  live: boolean;
  /** Whether it came from a body, and does not move. */
  given?: boolean;
  onGrab(event: React.PointerEvent): void;
}

/** A curve as a path on the canvas. */
export function pathOf(curve: Curve, map: PlaneMap): string {
  const count = curve.shape.kind === "line" ? 1 : curve.shape.kind === "spline" && curve.entity !== curve.id ? 8 : 72;
  return Array.from({ length: count + 1 }, (_, i) => map.toPixel(pointAt(curve, i / count)))
    .map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(2)} ${y.toFixed(2)}`)
    .join("");
}

/** The curves of one entity. */
export function EntityMark({
  id,
  curves,
  map,
  loose,
  picked,
  construction,
  live,
  given = false,
  onGrab,
}: MarkProps & { id: string; curves: readonly Curve[]; map: PlaneMap; construction: boolean }) {
  const d = curves.map((curve) => pathOf(curve, map)).join("");
  return (
    <g
      data-entity={id}
      data-loose={loose || undefined}
      data-picked={picked || undefined}
      data-given={given || undefined}
    >
      <path
        d={d}
        fill="none"
        stroke={picked ? "var(--pick)" : given ? "var(--rule)" : "var(--ink)"}
        strokeWidth={picked ? 3.5 : given ? 2 : loose ? 1.4 : 2.4}
        strokeDasharray={construction ? "7 4" : given ? "2 3" : undefined}
      />
      <path
        d={d}
        fill="none"
        stroke="transparent"
        strokeWidth={13}
        className={live ? "pointer-events-auto cursor-pointer" : "pointer-events-none"}
        onPointerDown={onGrab}
      />
    </g>
  );
}

/** A point: hollow while it can still move, filled when it is held. */
export function PointMark({
  id,
  at: [x, y],
  loose,
  picked,
  live,
  given,
  onGrab,
}: MarkProps & { id: string; at: Vec2 }) {
  const size = given ? 3 : 4;
  return (
    <g
      data-entity={id}
      data-loose={loose || undefined}
      data-picked={picked || undefined}
      data-given={given || undefined}
    >
      <rect
        x={x - size}
        y={y - size}
        width={2 * size}
        height={2 * size}
        fill={picked ? "var(--pick)" : loose ? "var(--sheet)" : given ? "var(--rule)" : "var(--ink)"}
        stroke={picked ? "var(--pick)" : given ? "var(--rule)" : "var(--ink)"}
        strokeWidth={1.5}
      />
      <rect
        x={x - 9}
        y={y - 9}
        width={18}
        height={18}
        fill="transparent"
        className={live ? `pointer-events-auto ${given ? "cursor-pointer" : "cursor-move"}` : "pointer-events-none"}
        onPointerDown={onGrab}
      />
    </g>
  );
}

/** The origin and the axes of the sketch's plane. */
/** Pixels from the origin to where the names of the axes stand. */
const NAMED = 96;

/** Which way the plane's Y runs in the model. */
const upOf = (frame: PlaneFrame) => inSpace({ ...frame, origin: [0, 0, 0] }, [0, 1]);

/** The axes of the plane, with the names of the directions in which they run in the model. */
export function Axes({
  map,
  frame,
  picked,
  onPick,
}: {
  map: PlaneMap;
  frame: PlaneFrame | null;
  picked: readonly string[];
  onPick(id: string): void;
}) {
  const far = 4000 / Math.max(map.scale, 1e-6);
  const [ox, oy] = map.toPixel([0, 0]);
  return (
    <g>
      {(["axis-x", "axis-y"] as const).map((id) => {
        const end: Vec2 = id === "axis-x" ? [far, 0] : [0, far];
        const [x1, y1] = map.toPixel([-end[0], -end[1]]);
        const [x2, y2] = map.toPixel(end);
        const ends = { x1, y1, x2, y2 };
        // Its name in the model stands some way from the origin, in the direction in which it grows.
        const away = Math.hypot(x2 - ox, y2 - oy) || 1;
        const at = [ox + ((x2 - ox) / away) * NAMED, oy + ((y2 - oy) / away) * NAMED] as const;
        return (
          <g key={id} data-entity={id}>
            <line
              {...ends}
              stroke={picked.includes(id) ? "var(--pick)" : "var(--rule)"}
              strokeWidth={1}
              strokeDasharray="12 4 2 4"
            />
            <line
              {...ends}
              stroke="transparent"
              strokeWidth={9}
              className="pointer-events-auto"
              onPointerDown={() => onPick(id)}
            />
            {frame ? (
              <text
                x={at[0]}
                y={at[1]}
                dx={id === "axis-x" ? 0 : 8}
                dy={id === "axis-x" ? -6 : 4}
                textAnchor={id === "axis-x" ? "middle" : "start"}
                fontSize={12}
                fill="var(--soft)"
                stroke="var(--paper)"
                strokeWidth={3}
                paintOrder="stroke"
                className="select-none"
              >
                {id === "axis-x" ? "→ " : "↑ "}
                {directionName(id === "axis-x" ? frame.x : upOf(frame))}
              </text>
            ) : null}
          </g>
        );
      })}
      <circle
        cx={ox}
        cy={oy}
        r={5}
        fill="none"
        stroke={picked.includes("origin") ? "var(--pick)" : "var(--rule)"}
        strokeWidth={2}
        className="pointer-events-auto"
        data-entity="origin"
        onPointerDown={() => onPick("origin")}
      />
    </g>
  );
}
