"use client";
import { useEffect, useState } from "react";
import type { FaceRef } from "@/core/references";
import type { Front, KeepSide } from "@/core/seam";
import { useWorkspace } from "../state/context";
import { type Sides, sideOf, turnedRound } from "../state/sides";
import { shownPieces } from "../state/view-content";
import type { ViewScene } from "./scene";

/** Which side of each cutter a trim keeps, as an arrow at the cut that is pressed to turn it round. */
export function SideMarks({ scene }: { scene: ViewScene | null }) {
  const trims = useWorkspace((state) => state.editing?.step.preset === "trim" && shownPieces(state) !== null);
  return scene && trims ? <Marks scene={scene} /> : null;
}

function Marks({ scene }: { scene: ViewScene }) {
  const [, tick] = useState(0);
  useEffect(() => scene.onView(() => tick((n) => n + 1)), [scene]);
  const step = useWorkspace((state) => state.editing?.step);
  const fronts = useWorkspace((state) => state.evaluation?.fronts);
  const before = useWorkspace((state) => state.evaluation?.before);
  const setValues = useWorkspace((state) => state.setValues);
  const set = useWorkspace((state) => state.set);
  if (!step || !fronts || !before) return null;
  const sides = (step.keepSide ?? {}) as Sides;
  const cutters = before.filter(({ id }) => fronts.some(({ cutter }) => cutter === id));
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {fronts.map((front) => {
        const item = cutters.find(({ id }) => id === front.cutter);
        const side = item ? sideOf(sides, item) : (sides[front.cutter] ?? "front");
        const name = item?.name ?? "a cutting face";
        const way = wayOf(scene, front, side);
        const { x, y } = beside(scene.project(front.at), way);
        return (
          <button
            key={front.cutter}
            type="button"
            data-side={side}
            aria-label={`${WORDS[side]} ${name} stays. Turn it round`}
            title={`${WORDS[side]} ${name} stays. Press to turn it round.`}
            onClick={() =>
              setValues({ keepSide: turnedRound(sides, front.cutter, cutters, step.cutterFaces as FaceRef[]) })
            }
            onPointerEnter={() => set({ hover: { id: front.cutter, face: null } })}
            onPointerLeave={() => set({ hover: null })}
            className="pointer-events-auto absolute grid size-8 -translate-1/2 place-items-center rounded-full border border-ink bg-sheet text-ink shadow hover:bg-pick-wash"
            style={{ left: x, top: y }}
          >
            <Arrow way={way} both={side === "either"} />
          </button>
        );
      })}
    </div>
  );
}

const WORDS: Record<KeepSide, string> = {
  front: "What is in front of",
  back: "What is behind",
  in: "What is inside",
  out: "What is outside",
  either: "Both sides of",
};

/** The angle, in degrees from the right downwards, in which the side that stays lies in the picture; null where it lies along the sight. */
function wayOf(scene: ViewScene, { at, way }: Front, side: KeepSide): number | null {
  const sign = side === "back" || side === "in" ? -1 : 1;
  const a = scene.project(at);
  const b = scene.project([at[0] + sign * way[0], at[1] + sign * way[1], at[2] + sign * way[2]]);
  const [x, y] = [b.x - a.x, b.y - a.y];
  return Math.hypot(x, y) < 1e-3 ? null : (Math.atan2(y, x) * 180) / Math.PI;
}

/** Pixels that a mark lies off the cut: two sheets that trim each other are cut in the same line. */
const OFF = 24;

function beside({ x, y }: { x: number; y: number }, way: number | null): { x: number; y: number } {
  const angle = ((way ?? 0) * Math.PI) / 180;
  const off = way === null ? 0 : OFF;
  return { x: x + off * Math.cos(angle), y: y + off * Math.sin(angle) };
}

/** The cut as a bar, and what stays as an arrow off it. */
function Arrow({ way, both }: { way: number | null; both: boolean }) {
  return (
    <svg
      viewBox="-10 -10 20 20"
      width={22}
      height={22}
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth={2}
    >
      {way === null ? (
        <circle r={4} />
      ) : (
        <g transform={`rotate(${way.toFixed(1)})`}>
          <path d="M-3-8v16" strokeWidth={2.6} />
          <path d="M-3 0H8M4-4 8 0 4 4" />
          {both ? <path d="M-3 0h-6M-6-3-9 0l3 3" /> : null}
        </g>
      )}
    </svg>
  );
}
