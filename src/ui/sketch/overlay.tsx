"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import { inSpace } from "@/core/kernel/space/plane-frame";
import {
  allOf,
  type Clip,
  copyOf,
  curveNear,
  inBox,
  paste,
  profileOf,
  type Sketch,
  SketchEdit,
  SketchFault,
  type Vec2,
} from "@/core/sketch";
import { useWorkspace } from "../state/context";
import type { ViewScene } from "../viewport/scene";
import { DrawnParts } from "./drawn-parts";
import { type AfterPress, finishMany, type HalfDrawn, pressed, typed } from "./half-drawn";
import { Axes } from "./marks";
import { Preview } from "./preview";
import { SizesOnDrawing } from "./sizes";
import { SketchBar } from "./sketch-bar";
import { type Snap, snap } from "./snapping";
import { CHANGE_TOOLS } from "./tools/change-tools";
import { DRAW_TOOLS } from "./tools/draw-tools";
import { FIRST_SETTINGS } from "./tools/settings";
import { useBoxPick } from "./use-box-pick";
import { useDragged } from "./use-dragged";
import { usePlaneMap } from "./use-plane-map";
import { useSketch } from "./use-sketch";
import { useSketchKeys } from "./use-sketch-keys";
import { useSquareLook } from "./use-square-look";

/** Pixels within which a click means a curve. */
const REACH = 12;

/** The open sketch over the view: what is drawn, what can still move, and the tool at work. */
export function SketchOverlay({ scene }: { scene: ViewScene | null }) {
  const open = useSketch();
  const picking = useWorkspace((state) => state.picking);
  const [tool, setTool] = useState("select");
  const [settings, setSettings] = useState(FIRST_SETTINGS);
  const picked = useWorkspace((state) => state.sketchPicked);
  const clip = useWorkspace((state) => state.sketchClip);
  const set = useWorkspace((state) => state.set);
  const [drawing, setDrawing] = useState<HalfDrawn | null>(null);
  const [hover, setHover] = useState<Snap | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [boxTakes, setBoxTakes] = useState<"inside" | "touched">("inside");
  const bar = useRef<HTMLElement>(null);
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
  const put = (next: Sketch): boolean => {
    const problem = open!.put(next);
    setTrouble(problem);
    return problem === null;
  };
  const toggle = (id: string) =>
    setPicked(picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id]);
  const dragged = useDragged({ open, map, put, toggle });
  const entities = dragged.entities ?? open?.state?.entities ?? sketch?.entities ?? [];
  const given = sketch?.given ?? [];
  const loose = useMemo(() => new Set(open?.state?.loose ?? []), [open?.state]);
  const openEnds = useMemo(
    () => (open?.state ? profileOf(allOf({ ...open.sketch, entities: open.state.entities })).openEnds : []),
    [open],
  );
  const culprits = useMemo(() => new Set(open?.state?.conflicts.flatMap(({ among }) => among) ?? []), [open?.state]);
  const drawTool = DRAW_TOOLS[tool];
  const changeTool = CHANGE_TOOLS[tool];
  const selecting = tool === "select";
  const active = open !== null && picking === null;
  const box = useBoxPick(active && selecting ? scene : null, map, (a, b) => {
    if (a[0] === b[0] && a[1] === b[1]) setPicked([]);
    else setPicked(inBox({ ...sketch!, entities }, a, b, boxTakes));
  });

  const takeOut = () => {
    if (!sketch || picked.length === 0) return;
    const edit = new SketchEdit(sketch);
    edit.remove(picked);
    if (put(edit.parts)) setPicked([]);
  };
  const commit = (next: AfterPress) => {
    if (next.sketch === sketch || put(next.sketch)) setDrawing(next.drawing);
    else setDrawing(null);
  };
  const finish = () => drawing && drawTool && commit(finishMany(drawTool, sketch!, drawing.stops, settings));
  const copy = () => sketch && set({ sketchClip: copyOf(sketch, picked) });
  const pasteIn = (from: Clip | null) => {
    if (!sketch || !from) return;
    const done = paste(sketch, from, [12 / (map?.scale ?? 1), -12 / (map?.scale ?? 1)]);
    if (put(done.sketch)) setPicked(done.pasted);
  };
  const choose = (next: string) => {
    setTool(next);
    setTrouble(null);
    // A chain goes on when only its way of going on is changed.
    const goesOn = DRAW_TOOLS[next]?.chain && drawTool?.chain && drawing?.stops.length === 1;
    if (!goesOn) setDrawing(null);
  };

  // The first Escape ends what is half drawn, the next lays the tool down, the next lets go of what is picked.
  const stepBack = () => {
    if (drawing) setDrawing(null);
    else if (!selecting) setTool("select");
    else setPicked([]);
  };
  useSketchKeys(
    sketch && active
      ? {
          escape: drawing || !selecting || picked.length > 0 ? stepBack : null,
          finish: drawing && drawTool?.many ? finish : null,
          takeOut: picked.length > 0 ? takeOut : null,
          copy: picked.length > 0 ? copy : null,
          paste: clip ? () => pasteIn(clip) : null,
          // A number typed while something is drawn goes into the first of its sizes.
          typeSize: drawing ? () => bar.current?.querySelector<HTMLInputElement>("form input")?.focus() : null,
        }
      : null,
  );

  if (!open || !sketch || !active) return null;
  const at = (event: React.PointerEvent): Vec2 => {
    const home = event.currentTarget.getBoundingClientRect();
    return map!.toPlane([event.clientX - home.left, event.clientY - home.top]);
  };
  const last = drawing?.stops.at(-1) ?? null;
  const ownStops = drawTool?.many ? (drawing?.stops ?? []) : [];

  function press(event: React.PointerEvent<SVGSVGElement>): void {
    if (event.button !== 0 || !map || selecting) return;
    const place = at(event);
    if (drawTool) {
      const hit = snap(sketch!, place, last, map.scale, event.shiftKey, ownStops);
      commit(pressed(drawTool, sketch!, drawing, hit, settings));
    } else if (changeTool) {
      try {
        const hit = snap(sketch!, place, null, map.scale, false);
        const curve = axisAt(place, map.scale) ?? curveNear(sketch!, place, REACH / map.scale)?.id ?? null;
        const point = hit.rule === "point" && typeof hit.place === "string" ? hit.place : null;
        const target = { at: place, point, curve: curveNear(sketch!, place, REACH / map.scale)?.id ?? curve };
        if (put(changeTool.apply(sketch!, target, picked, settings))) setPicked(stillThere(picked));
      } catch (cause) {
        if (!(cause instanceof SketchFault)) throw cause;
        setTrouble(cause.message);
      }
    }
  }

  /** After a change some of what was picked may be gone; what stays stays picked, for the next one. */
  const stillThere = (ids: readonly string[]) =>
    ids.filter((id) => sketch!.entities.some((entity) => entity.id === id));

  function move(event: React.PointerEvent<SVGSVGElement>): void {
    if (!map) return;
    const place = at(event);
    if (dragged.move(place)) return;
    setHover(selecting ? null : snap(sketch!, place, last, map.scale, event.shiftKey, ownStops));
  }

  return (
    <>
      <SketchBar
        ref={bar}
        open={open}
        tool={tool}
        picked={picked}
        drawing={drawing}
        openEnds={openEnds.length}
        settings={settings}
        boxTakes={boxTakes}
        canPaste={clip !== null}
        trouble={trouble ?? open.fault}
        onTool={choose}
        onBrought={({ entities: now }) =>
          scene?.fit(
            now.flatMap((one) => (one.type === "point" && open.frame ? [inSpace(open.frame, [one.x, one.y])] : [])),
          )
        }
        onTrouble={setTrouble}
        onSettings={setSettings}
        onBoxTakes={setBoxTakes}
        onPut={put}
        onTakeOut={takeOut}
        onCopy={copy}
        onPaste={() => pasteIn(clip)}
        onFinish={finish}
        onSizes={(sizes) => drawTool && drawing && commit(typed(drawTool, sketch, drawing, sizes, settings))}
      />
      {map ? (
        <SizesOnDrawing
          open={open}
          sketch={{ ...sketch, entities }}
          map={map}
          live={selecting}
          culprits={culprits}
          onPut={put}
        />
      ) : null}
      <svg
        role="img"
        aria-label={`Sketch of ${entities.length} parts`}
        data-sketch-tool={tool}
        className={`absolute inset-0 size-full ${selecting ? "pointer-events-none" : "cursor-crosshair"}`}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={dragged.release}
        onPointerLeave={() => setHover(null)}
        onWheel={(event) => scene?.camera.wheel(event.nativeEvent)}
      >
        {map ? (
          <>
            <Axes map={map} frame={open.frame} picked={picked} onPick={(id) => selecting && toggle(id)} />
            <DrawnParts
              given={given}
              entities={entities}
              map={map}
              loose={loose}
              picked={picked}
              live={selecting}
              openEnds={drawing === null && !dragged.held() ? openEnds : []}
              onGrab={(event, entity) => selecting && event.button === 0 && dragged.grab(event, entity)}
            />
            {hover && drawTool ? (
              <Preview tool={drawTool} sketch={sketch} drawing={drawing} hover={hover} map={map} settings={settings} />
            ) : null}
            {box ? (
              <rect
                x={Math.min(box.from[0], box.to[0])}
                y={Math.min(box.from[1], box.to[1])}
                width={Math.abs(box.to[0] - box.from[0])}
                height={Math.abs(box.to[1] - box.from[1])}
                fill="var(--pick)"
                fillOpacity={0.08}
                stroke="var(--pick)"
                strokeDasharray={boxTakes === "touched" ? "6 3" : undefined}
              />
            ) : null}
          </>
        ) : null}
      </svg>
    </>
  );
}

/** An axis under the pointer: to mirror about, where no curve lies nearer. */
function axisAt([x, y]: Vec2, scale: number): "axis-x" | "axis-y" | null {
  if (Math.abs(y) * scale < REACH) return "axis-x";
  return Math.abs(x) * scale < REACH ? "axis-y" : null;
}
