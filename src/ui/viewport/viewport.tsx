"use client";
import { useEffect, useRef, useState } from "react";
import type { FaceRef } from "@/core/naming";
import { stepType } from "@/core/steps";
import { toggleFace } from "../forms/item-fields";
import { useStores } from "../state/context";
import { drawingOf, pickingFaces } from "../state/drawing";
import { pickable } from "../state/workspace-store";
import { useTheme } from "../workspace/theme";
import { ViewScene } from "./scene";

/** A press that moves less than this is a click, pixels. */
const STILL = 4;

/** The view: draws what the stores say and turns clicks into picks. It never edits geometry. */
export function Viewport({ onScene }: { onScene(scene: ViewScene | null): void }) {
  const { workspace } = useStores();
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useRef<ViewScene | null>(null);
  const [broken, setBroken] = useState(false);
  const dark = useTheme().dark;

  useEffect(() => {
    const element = canvas.current!;
    let view: ViewScene;
    try {
      view = new ViewScene(element);
    } catch {
      setBroken(true);
      return;
    }
    scene.current = view;
    onScene(view);
    const observer = new ResizeObserver(([entry]) => view.resize(entry!.contentRect.width, entry!.contentRect.height));
    observer.observe(element.parentElement!);
    return () => {
      observer.disconnect();
      scene.current = null;
      onScene(null);
      view.dispose();
    };
  }, [onScene]);

  useEffect(() => {
    const draw = () => scene.current?.draw(drawingOf(workspace.getState(), dark));
    draw();
    return workspace.subscribe(draw);
  }, [workspace, dark]);

  const press = useRef<{ x: number; y: number } | null>(null);

  function at(event: React.PointerEvent): { x: number; y: number } {
    const box = canvas.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  function find(event: React.PointerEvent) {
    const { x, y } = at(event);
    const hit = scene.current?.hit(x, y, false) ?? null;
    return hit && accepts(hit) ? hit : null;
  }

  /** Whether the open field takes what lies there: what a click would pick lights up, the rest does not. */
  function accepts(hit: { id: string; face: number | null }): boolean {
    const state = workspace.getState();
    if (!state.editing || state.picking === null) return true;
    const item = pickable(state).find((candidate) => candidate.id === hit.id);
    const field = stepType(state.editing.step.type)?.fields.find((candidate) => candidate.key === state.picking);
    if (!item || !field) return false;
    if (field.kind === "bodies") return field.accepts.includes(item.kind);
    if (field.kind === "faces")
      return (
        item.kind !== "workplane" &&
        hit.face !== null &&
        (field.accepts === "any" || item.faces[hit.face]?.kind === "plane")
      );
    if (field.kind === "cutters") return !(state.editing.step.stock as string[]).includes(item.id);
    return false;
  }

  function click(event: React.PointerEvent): void {
    const state = workspace.getState();
    const hit = find(event);
    const { editing, picking } = state;
    if (editing && picking !== null) {
      if (!hit) return;
      const item = pickable(state).find((candidate) => candidate.id === hit.id)!;
      if (pickingFaces(state) && item.kind !== "workplane") {
        const field = stepType(editing.step.type)!.fields.find((candidate) => candidate.key === picking);
        const max = field?.kind === "faces" ? field.max : undefined;
        state.setDraft({
          [picking]: toggleFace(editing.step[picking] as FaceRef[], item, item.faces[hit.face!]!, max),
        });
      } else {
        const value = editing.step[picking] as string[];
        state.setDraft({
          [picking]: value.includes(hit.id) ? value.filter((id) => id !== hit.id) : [...value, hit.id],
        });
      }
      return;
    }
    if (editing?.step.type === "seam") {
      if (hit) document.getElementById(`piece-${hit.id}`)?.scrollIntoView({ block: "nearest", inline: "center" });
      state.set({ selected: hit?.id ?? null });
      return;
    }
    state.set({ selected: hit?.id ?? null, selectedFace: hit?.face ?? null });
  }

  function keys(event: React.KeyboardEvent): void {
    const view = scene.current;
    if (!view || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = Math.PI / 12;
    const actions: Record<string, () => void> = event.shiftKey
      ? {
          ArrowLeft: () => view.pan(-0.1, 0),
          ArrowRight: () => view.pan(0.1, 0),
          ArrowUp: () => view.pan(0, 0.1),
          ArrowDown: () => view.pan(0, -0.1),
        }
      : {
          ArrowLeft: () => view.turn(-step, 0),
          ArrowRight: () => view.turn(step, 0),
          ArrowUp: () => view.turn(0, -step),
          ArrowDown: () => view.turn(0, step),
          "+": () => view.zoom(1.25),
          "-": () => view.zoom(0.8),
          Home: () => view.fit(),
        };
    const action = actions[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  }

  if (broken)
    return (
      <div className="grid size-full place-items-center p-8 text-center">
        <p className="max-w-sm">
          This browser cannot draw in three dimensions (WebGL 2 is off). Turn on hardware acceleration, or use another
          browser. The build sheet works all the same.
        </p>
      </div>
    );
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      aria-label="View of the part. Arrow keys turn it, Shift and arrow keys move it, plus and minus zoom, Home fits it."
      className="block size-full touch-none outline-offset-[-3px]"
      onPointerDown={(event) => {
        press.current = event.button === 0 ? at(event) : null;
      }}
      onPointerUp={(event) => {
        const from = press.current;
        press.current = null;
        const to = at(event);
        if (from && Math.hypot(to.x - from.x, to.y - from.y) < STILL) click(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons !== 0) return;
        const hit = find(event);
        const { hover, set } = workspace.getState();
        if (hover?.id !== hit?.id || hover?.face !== hit?.face) set({ hover: hit });
      }}
      onPointerLeave={() => workspace.getState().set({ hover: null })}
      onKeyDown={keys}
    />
  );
}
