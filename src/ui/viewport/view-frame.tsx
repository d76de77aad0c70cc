"use client";
import { useEffect, useState } from "react";
import { formatLength } from "../settings/format";
import { settings, useSettings } from "../settings/settings";
import { useJob, useWorkspace } from "../state/context";
import { followed } from "../state/moved-plane";
import { roughOf } from "../state/rough";
import { FIELDS } from "./floor";
import type { ViewScene } from "./scene";
import type { StandardView } from "./view-camera";

/** Which way each end of the axes looks, as a workshop says it. */
const ENDS: { axis: "x" | "y" | "z"; sign: 1 | -1; view: StandardView; words: string }[] = [
  { axis: "x", sign: 1, view: "right", words: "Right" },
  { axis: "x", sign: -1, view: "left", words: "Left" },
  { axis: "y", sign: 1, view: "back", words: "Back" },
  { axis: "y", sign: -1, view: "front", words: "Front" },
  { axis: "z", sign: 1, view: "top", words: "Top" },
  { axis: "z", sign: -1, view: "below", words: "Below" },
];

const SIZE = 84;
const ARM = 27;

/** Height of the line along the lower edge, pixels. */
const STATUS = 28;

/** Where the view stands: the axes to be pressed, the floor's field, and where the pointer is. */
export function ViewFrame({ scene }: { scene: ViewScene | null }) {
  const [, tick] = useState(0);
  useEffect(() => scene?.onView(() => tick((n) => n + 1)), [scene]);
  const units = useJob((state) => state.job.units);
  const drawing = useWorkspace((state) => state.editing?.step.type === "sketch" && state.picking === null);
  const floor = useSettings((state) => state.floor) && !drawing;
  const perspective = useSettings((state) => state.perspective) && !drawing;
  const { drag, wheel } = useSettings((state) => state);
  useEffect(() => scene?.setFloor(floor ? FIELDS[units] : null), [scene, floor, units]);
  // A drawing is seen square and to one scale.
  useEffect(() => scene?.camera.setPerspective(perspective), [scene, perspective]);
  useEffect(() => scene?.camera.gestures({ drag, wheel }), [scene, drag, wheel]);
  useCovered(scene);
  if (!scene) return null;
  return (
    <>
      <Axes scene={scene} />
      <Status scene={scene} />
    </>
  );
}

/** What covers more of the width leaves nothing to stand in. */
const MOST = 0.7;

/** What lies over the left of the view leaves the rest of it: the part stands in the middle of that. */
function useCovered(scene: ViewScene | null): void {
  useEffect(() => {
    const home = scene?.canvas.closest("[data-view]");
    if (!scene || !home) return;
    const measure = () => {
      const { left: start, width } = home.getBoundingClientRect();
      const ends = [...home.querySelectorAll("[data-covers=left]")].map(
        (one) => one.getBoundingClientRect().right - start,
      );
      const end = Math.max(0, ...ends);
      const left = end > MOST * width ? 0 : end;
      (home as HTMLElement).style.setProperty("--covered", `${left}px`);
      scene.camera.cover({ left, right: 0, top: 0, bottom: STATUS });
    };
    const sizes = new ResizeObserver(measure);
    const watch = new MutationObserver(() => {
      sizes.disconnect();
      sizes.observe(home);
      for (const one of home.querySelectorAll("[data-covers]")) sizes.observe(one);
      measure();
    });
    watch.observe(home, { childList: true });
    sizes.observe(home);
    measure();
    return () => {
      watch.disconnect();
      sizes.disconnect();
    };
  }, [scene]);
}

function Axes({ scene }: { scene: ViewScene }) {
  const axes = scene.camera.axes();
  const ends = ENDS.map((end) => {
    const [x, y, depth] = axes[end.axis].map((value) => value * end.sign) as [number, number, number];
    return { ...end, x: SIZE / 2 + x * ARM, y: SIZE / 2 - y * ARM, depth };
  }).sort((a, b) => a.depth - b.depth);
  return (
    <div
      role="toolbar"
      aria-label="Directions"
      className="absolute right-2 bottom-8 isolate"
      style={{ width: SIZE, height: SIZE }}
    >
      <svg aria-hidden="true" width={SIZE} height={SIZE} className="absolute inset-0">
        {ends.map(({ axis, sign, x, y }) => (
          <line
            key={axis + sign}
            x1={SIZE / 2}
            y1={SIZE / 2}
            x2={x}
            y2={y}
            stroke="var(--ink)"
            strokeWidth={sign > 0 ? 1.6 : 1}
            strokeDasharray={sign > 0 ? undefined : "2 2"}
            opacity={sign > 0 ? 1 : 0.5}
          />
        ))}
      </svg>
      {ends.map(({ axis, sign, view, words, x, y, depth }) => (
        <button
          key={axis + sign}
          type="button"
          aria-label={`Look from the ${words.toLowerCase()} (${sign > 0 ? "+" : "−"}${axis.toUpperCase()})`}
          title={`${words} (${sign > 0 ? "+" : "−"}${axis.toUpperCase()})`}
          onClick={() => scene.look(view)}
          className={`num absolute -translate-x-1/2 -translate-y-1/2 rounded-full border text-center text-[0.6875rem]! leading-none hover:border-pick hover:bg-pick-wash ${sign > 0 ? "size-[1.15rem] border-rule bg-sheet font-medium" : "size-3 border-line bg-paper"}`}
          style={{ left: x, top: y, zIndex: Math.round(depth * 10) + 10 }}
        >
          {sign > 0 ? axis.toUpperCase() : ""}
        </button>
      ))}
    </div>
  );
}

/** Along the lower edge of the view: the floor's field, what the pointer is over and where, and how it looks. */
function Status({ scene }: { scene: ViewScene }) {
  const units = useJob((state) => state.job.units);
  const place = useWorkspace((state) => state.place);
  const over = useWorkspace((state) => state.evaluation?.items.find(({ id }) => id === state.hover?.id)?.name);
  const perspective = useSettings((state) => state.perspective);
  const field = scene.floorField;
  const job = useJob((state) => state.job);
  const parted = useWorkspace((state) => followed(state, job) !== null);
  const rough = useWorkspace((state) => roughOf(state.rough, state.editing));
  const within = rough?.within ?? null;
  return (
    <section
      aria-label="Where the pointer is"
      className="absolute inset-x-0 bottom-0 flex h-7 items-center gap-4 overflow-hidden border-t border-line bg-sheet/90 px-2.5 text-[0.8125rem] whitespace-nowrap text-soft"
    >
      {parted || rough ? (
        <span role="status" data-triangles className="rounded bg-warn-wash px-1.5 text-warn">
          Triangles{within !== null ? `, to ${formatLength(within, units)}` : ""}: what is exact follows
        </span>
      ) : null}
      {field !== null ? <span data-floor={field}>Floor: {formatLength(field, units)} a field</span> : null}
      <span className="num min-w-0 grow truncate" data-place={place ? place.on : ""}>
        {place
          ? place.at
              .map((value, axis) => `${"XYZ"[axis]} ${formatLength(value, units).replace(/ (mm|in)$/, "")}`)
              .join("   ") + (place.on === "floor" ? "   on the floor" : "")
          : ""}
      </span>
      {over ? <span className="max-w-52 truncate text-ink">{over}</span> : null}
      <button
        type="button"
        className="shrink-0 rounded px-1 hover:bg-well hover:text-ink"
        onClick={() => settings.getState().change({ perspective: !perspective })}
      >
        {perspective ? "In perspective" : "Parallel"}
      </button>
    </section>
  );
}
