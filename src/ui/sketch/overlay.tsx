"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import { type Curve, curvesOf, Drag, type Entity, pointAt, type Sketch, SketchEdit, type Vec2 } from "@/core/sketch";
import { useWorkspace } from "../state/context";
import type { ViewScene } from "../viewport/scene";
import { type Drawing, drawTool, finish, pressed, type SketchTool } from "./drawing-tools";
import { type PlaneMap, planeMap } from "./plane-map";
import { SketchBar } from "./sketch-bar";
import { type Snap, snap } from "./snapping";
import { useSketch } from "./use-sketch";

/** The open sketch over the view: what is drawn, what can still move, and the tool at work. */
export function SketchOverlay({ scene }: { scene: ViewScene | null }) {
  const open = useSketch();
  const picking = useWorkspace((state) => state.picking);
  const [tool, setTool] = useState<SketchTool>("select");
  const picked = useWorkspace((state) => state.sketchPicked);
  const set = useWorkspace((state) => state.set);
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  const [hover, setHover] = useState<Snap | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [dragged, setDragged] = useState<Entity[] | null>(null);
  const drag = useRef<{ id: string; work: Drag; moved: boolean } | null>(null);
  const map = usePlaneMap(scene, open?.frame ?? null);
  useSquareLook(scene, open?.frame ?? null);
  const editing = useWorkspace((state) => state.editing?.step.id);
  // Another step, another drawing: nothing of the last one is picked or half drawn.
  useEffect(() => {
    setTool("select");
    setDrawing(null);
    setTrouble(null);
  }, [editing]);

  const setPicked = (next: readonly string[]) => set({ sketchPicked: next });
  const sketch = open?.sketch;
  const entities = dragged ?? open?.state?.entities ?? sketch?.entities ?? [];
  const loose = useMemo(() => new Set(open?.state?.loose ?? []), [open?.state]);

  const put = (next: Sketch): boolean => {
    const problem = open!.put(next);
    setTrouble(problem);
    return problem === null;
  };
  const takeOut = () => {
    if (!sketch || picked.length === 0) return;
    const edit = new SketchEdit(sketch);
    edit.remove(picked);
    if (put(edit.parts)) setPicked([]);
  };
  const commit = (next: { sketch: Sketch; drawing: Drawing | null }) => {
    if (put(next.sketch)) setDrawing(next.drawing);
    else setDrawing(null);
  };

  useEffect(() => {
    if (!sketch) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.matches("input, select, textarea")) return;
      if (event.key === "Escape" && (drawing || tool !== "select" || picked.length > 0)) {
        // The first Escape ends what is half drawn, the next lays the tool down, the next lets go of what is picked.
        event.preventDefault();
        event.stopImmediatePropagation();
        if (drawing) setDrawing(null);
        else if (tool !== "select") setTool("select");
        else setPicked([]);
      } else if ((event.key === "Delete" || event.key === "Backspace") && picked.length > 0) {
        event.preventDefault();
        takeOut();
      }
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  });

  if (!open || !sketch || picking !== null) return null;
  const at = (event: React.PointerEvent): Vec2 => {
    const box = event.currentTarget.getBoundingClientRect();
    return map!.toPlane([event.clientX - box.left, event.clientY - box.top]);
  };
  const toggle = (id: string, add: boolean) =>
    setPicked(
      picked.includes(id) ? picked.filter((other) => other !== id) : add ? [...picked, id] : [...picked, id].slice(-3),
    );

  function press(event: React.PointerEvent<SVGSVGElement>): void {
    if (event.button !== 0 || !map || tool === "select") return;
    const hit = snap(sketch!, at(event), drawing?.from.at ?? null, map.scale, event.shiftKey);
    commit(pressed(tool, sketch!, drawing, hit));
  }

  function move(event: React.PointerEvent<SVGSVGElement>): void {
    if (!map) return;
    const place = at(event);
    if (drag.current) {
      drag.current.moved = true;
      setDragged(drag.current.work.to([place]));
      return;
    }
    setHover(tool === "select" ? null : snap(sketch!, place, drawing?.from.at ?? null, map.scale, event.shiftKey));
  }

  function release(): void {
    const held = drag.current;
    drag.current = null;
    if (!held) return;
    if (held.moved && dragged) put({ ...sketch!, entities: dragged });
    else toggle(held.id, false);
    setDragged(null);
  }

  function grab(event: React.PointerEvent, entity: Entity): void {
    if (tool !== "select" || event.button !== 0) return;
    event.stopPropagation();
    if (entity.type !== "point" || !open!.state) {
      toggle(entity.id, event.shiftKey);
      return;
    }
    (event.currentTarget as SVGElement).ownerSVGElement?.setPointerCapture(event.pointerId);
    drag.current = {
      id: entity.id,
      work: new Drag({ ...sketch!, entities: open!.state.entities }, open!.sizeOf, [entity.id]),
      moved: false,
    };
  }

  return (
    <>
      <SketchBar
        open={open}
        tool={tool}
        picked={picked}
        drawing={drawing}
        trouble={trouble ?? open.fault}
        onTool={(next) => {
          setTool(next);
          setDrawing(null);
          setTrouble(null);
        }}
        onPut={put}
        onTakeOut={takeOut}
        onFinish={(values) => commit(finish(tool, sketch, drawing!, values))}
      />
      <svg
        role="img"
        aria-label={`Sketch of ${entities.length} parts`}
        data-sketch-tool={tool}
        className={`absolute inset-0 size-full ${tool === "select" ? "pointer-events-none" : "cursor-crosshair"}`}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerLeave={() => setHover(null)}
        onWheel={(event) => scene?.wheel(event.nativeEvent)}
      >
        {map ? (
          <>
            <Axes map={map} picked={picked} onPick={(id) => tool === "select" && toggle(id, false)} />
            {curvesOf(entities, true).map((curve) => {
              const entity = entities.find(({ id }) => id === curve.id)!;
              return (
                <CurveShape
                  key={curve.id}
                  curve={curve}
                  map={map}
                  loose={loose.has(curve.id)}
                  picked={picked.includes(curve.id)}
                  construction={entity.construction}
                  live={tool === "select"}
                  onGrab={(event) => grab(event, entity)}
                />
              );
            })}
            {entities.map((entity) =>
              entity.type === "point" ? (
                <PointShape
                  key={entity.id}
                  id={entity.id}
                  at={map.toPixel([entity.x, entity.y])}
                  loose={loose.has(entity.id)}
                  picked={picked.includes(entity.id)}
                  live={tool === "select"}
                  onGrab={(event) => grab(event, entity)}
                />
              ) : null,
            )}
            {hover ? <Preview tool={tool} drawing={drawing} hover={hover} map={map} /> : null}
          </>
        ) : null}
      </svg>
    </>
  );
}

/** The map of the plane onto the canvas, anew whenever the view moves. */
function usePlaneMap(scene: ViewScene | null, frame: Parameters<typeof planeMap>[1] | null): PlaneMap | null {
  const [, tick] = useState(0);
  useEffect(() => scene?.onView(() => tick((n) => n + 1)), [scene]);
  return scene && frame ? planeMap(scene, frame) : null;
}

/** Turns the view square to the plane while a sketch is open, and back afterwards. */
function useSquareLook(scene: ViewScene | null, frame: { normal: readonly [number, number, number] } | null): void {
  const normal = frame?.normal.map((value) => value.toFixed(6)).join();
  useEffect(() => {
    if (!scene || !frame) return;
    const before = scene.direction();
    scene.lookFrom(frame.normal);
    return () => scene.lookFrom(before);
  }, [scene, normal]);
}

function pathOf(curve: Curve, map: PlaneMap): string {
  const count = curve.shape.kind === "line" ? 1 : 72;
  return Array.from({ length: count + 1 }, (_, i) => map.toPixel(pointAt(curve, i / count)))
    .map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(2)} ${y.toFixed(2)}`)
    .join("");
}

interface ShapeProps {
  loose: boolean;
  picked: boolean;
  /** Whether it can be picked now. */
  live: boolean;
  onGrab(event: React.PointerEvent): void;
}

function CurveShape({
  curve,
  map,
  loose,
  picked,
  construction,
  live,
  onGrab,
}: ShapeProps & { curve: Curve; map: PlaneMap; construction: boolean }) {
  const d = pathOf(curve, map);
  return (
    <g data-entity={curve.id} data-loose={loose || undefined} data-picked={picked || undefined}>
      <path
        d={d}
        fill="none"
        stroke={picked ? "var(--pick)" : "var(--ink)"}
        strokeWidth={picked ? 3.5 : loose ? 1.4 : 2.4}
        strokeDasharray={construction ? "7 4" : undefined}
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
function PointShape({ id, at: [x, y], loose, picked, live, onGrab }: ShapeProps & { id: string; at: Vec2 }) {
  return (
    <g data-entity={id} data-loose={loose || undefined} data-picked={picked || undefined}>
      <rect
        x={x - 4}
        y={y - 4}
        width={8}
        height={8}
        fill={picked ? "var(--pick)" : loose ? "var(--sheet)" : "var(--ink)"}
        stroke={picked ? "var(--pick)" : "var(--ink)"}
        strokeWidth={1.5}
      />
      <rect
        x={x - 9}
        y={y - 9}
        width={18}
        height={18}
        fill="transparent"
        className={live ? "pointer-events-auto cursor-move" : "pointer-events-none"}
        onPointerDown={onGrab}
      />
    </g>
  );
}

function Axes({ map, picked, onPick }: { map: PlaneMap; picked: readonly string[]; onPick(id: string): void }) {
  const far = 4000 / Math.max(map.scale, 1e-6);
  const [ox, oy] = map.toPixel([0, 0]);
  return (
    <g>
      {(["axis-x", "axis-y"] as const).map((id) => {
        const end: Vec2 = id === "axis-x" ? [far, 0] : [0, far];
        const [x1, y1] = map.toPixel([-end[0], -end[1]]);
        const [x2, y2] = map.toPixel(end);
        return (
          <g key={id} data-entity={id}>
            <line
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              stroke={picked.includes(id) ? "var(--pick)" : "var(--rule)"}
              strokeWidth={1}
              strokeDasharray="12 4 2 4"
            />
            <line
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              stroke="transparent"
              strokeWidth={9}
              className="pointer-events-auto"
              onPointerDown={() => onPick(id)}
            />
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

const RULE_WORDS = { point: "on the point", horizontal: "level", vertical: "upright" } as const;

/** What the next click would draw, and what it would hold. */
function Preview({
  tool,
  drawing,
  hover,
  map,
}: {
  tool: SketchTool;
  drawing: Drawing | null;
  hover: Snap;
  map: PlaneMap;
}) {
  const [x, y] = map.toPixel(hover.at);
  const shape = drawing ? drawTool(tool, drawing, hover) : null;
  return (
    <g className="pointer-events-none" data-snap={hover.rule ?? "free"}>
      {shape ? (
        <path
          d={shape
            .map(
              (at, i) =>
                `${i === 0 ? "M" : "L"}${map
                  .toPixel(at)
                  .map((value) => value.toFixed(1))
                  .join(" ")}`,
            )
            .join("")}
          fill="none"
          stroke="var(--pick)"
          strokeWidth={2}
        />
      ) : null}
      <circle cx={x} cy={y} r={hover.rule === "point" ? 7 : 3} fill="none" stroke="var(--pick)" strokeWidth={2} />
      {hover.rule ? (
        <text x={x + 12} y={y - 10} fill="var(--pick)" className="text-[13px]">
          {RULE_WORDS[hover.rule]}
        </text>
      ) : null}
    </g>
  );
}
