"use client";
import { useEffect, useRef, useState } from "react";
import { has } from "@/core/items/kinds";
import { isBodyView } from "@/engine/contract";
import { useStores } from "../state/context";
import { afterMeasurePick } from "../state/measuring";
import { followed } from "../state/moved-plane";
import { otherHit } from "../state/others";
import { accepts, afterOtherPick, afterPick } from "../state/picking";
import { toggled } from "../state/piece-picks";
import { afterPutPick } from "../state/putting";
import { faceRef } from "../state/refs";
import { drawnAnew, PLANE_HERE, pickedKind, pickField, shownPieces, viewContentOf } from "../state/view-content";
import { foundIn } from "../state/whereabouts";
import { pickable } from "../state/workspace-store";
import { useActions } from "../workspace/actions";
import { useTheme } from "../workspace/theme";
import type { Hit } from "./drawn";
import { ViewScene } from "./scene";

/** A press that moves less than this is a click, pixels. */
const STILL = 4;

/** The view: draws what the stores say and turns clicks into picks. It never edits geometry. */
export function Viewport({ onScene }: { onScene(scene: ViewScene | null): void }) {
  const { workspace, job } = useStores();
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useRef<ViewScene | null>(null);
  const [broken, setBroken] = useState(false);
  const dark = useTheme().dark;
  const { cutBy } = useActions();

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
    const observer = new ResizeObserver(() => view.resized());
    observer.observe(element.parentElement!);
    return () => {
      observer.disconnect();
      scene.current = null;
      onScene(null);
      view.dispose();
    };
  }, [onScene]);

  useEffect(() => {
    const draw = () => {
      const state = workspace.getState();
      const { job: document } = job.store.getState();
      const { parts } = document;
      const part = parts.find(({ id }) => id === state.part) ?? parts[0]!;
      scene.current?.draw(viewContentOf(state, dark, part, followed(state, document), document));
    };
    draw();
    const ends = [
      workspace.subscribe((now, before) => (now.part !== before.part || drawnAnew(now, before)) && draw()),
      job.store.subscribe((now, before) => now.job !== before.job && draw()),
    ];
    return () => {
      for (const end of ends) end();
    };
  }, [workspace, job, dark]);

  const press = useRef<{ x: number; y: number; button: number } | null>(null);
  /** Where the pointer was last, for what keys do there. */
  const pointer = useRef<{ x: number; y: number } | null>(null);

  // What lies behind, one after the other, from the nearest on.
  useEffect(
    () =>
      workspace.subscribe((now, before) => {
        if (now.deeper === before.deeper || now.deeper === 0 || !pointer.current) return;
        if (now.editing && !shownPieces(now)) return;
        const hits = scene.current?.under(pointer.current.x, pointer.current.y) ?? [];
        const hit = hits[now.deeper % Math.max(1, hits.length)];
        if (hit) now.set({ selected: hit.id, selectedFace: hit.face, hover: hit });
      }),
    [workspace],
  );

  function at(event: React.PointerEvent): { x: number; y: number } {
    const box = canvas.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  function find(event: React.PointerEvent): Hit | null {
    const { x, y } = at(event);
    const kind = pickedKind(workspace.getState());
    const view = scene.current;
    // What the other part has, whatever of this one lies before it.
    if (kind === "other-faces")
      return view?.firstOf(x, y, (hit) => otherHit(workspace.getState(), hit) !== null) ?? null;
    if (kind === "other-edges")
      return view?.near(x, y, "edge", (hit) => otherHit(workspace.getState(), hit) !== null) ?? null;
    if (kind === "edges" || kind === "corners")
      return view?.near(x, y, kind === "edges" ? "edge" : "corner", taken) ?? null;
    if (workspace.getState().measuring)
      return (
        view?.near(x, y, "corner", () => true) ??
        view?.near(x, y, "edge", () => true) ??
        pathAt(x, y) ??
        view?.hit(x, y, false) ??
        null
      );
    const line = view?.lineAt(x, y) ?? null;
    if (line && taken(line)) return line;
    const hit = view?.hit(x, y, false) ?? null;
    return hit && taken(hit) ? hit : null;
  }

  /** The curve in space at a pixel. */
  function pathAt(x: number, y: number): Hit | null {
    const line = scene.current?.lineAt(x, y) ?? null;
    const item = workspace.getState().evaluation?.items.find(({ id }) => id === line?.id);
    return item && has(item, "path") ? line : null;
  }

  /** Whether the open field takes what lies there: what a click would pick lights up, the rest does not. */
  function taken(hit: Hit): boolean {
    const state = workspace.getState();
    if (!state.editing || state.picking === null) return true;
    const item = pickable(state).find((candidate) => candidate.id === hit.id);
    const field = pickField(state);
    return (
      item !== undefined &&
      field !== undefined &&
      accepts(field, item, hit, (state.editing.step.stock as string[]) ?? [])
    );
  }

  function click(event: React.PointerEvent): void {
    const state = workspace.getState();
    const hit = find(event);
    const { editing, picking } = state;
    if (editing && picking !== null) {
      if (!hit) return;
      const items = pickable(state);
      const item = items.find((candidate) => candidate.id === hit.id);
      const field = pickField(state);
      if (picking === PLANE_HERE) {
        const { x, y } = at(event);
        const place = scene.current?.placeAt(x, y);
        const face = item && isBodyView(item) && hit.face !== null ? faceRef(item, item.faces[hit.face]!) : null;
        if (!face || place?.on !== "body") return;
        state.set({ picking: null });
        cutBy({ base: "square", face: [face], through: place.at.map((value) => Math.round(value * 10) / 10) });
        return;
      }
      const other = otherHit(state, hit);
      if (other && field && (field.kind === "other-faces" || field.kind === "other-edges")) {
        state.setValues({ [picking]: afterOtherPick(field.kind, editing.step[picking], other, hit) });
        return;
      }
      // Nothing can be picked while it is not known what lies on the bench before this step.
      if (item && field)
        state.setValues({
          [picking]: afterPick(field, editing.step[picking], item, hit, items, foundIn(state.evaluation)),
        });
      return;
    }
    if (state.whole) {
      const { job: document } = job.store.getState();
      if (state.putting && hit) state.set({ putting: afterPutPick(state.putting, hit, document, state) });
      else state.set({ selected: hit?.id ?? null, selectedFace: null });
      return;
    }
    if (state.measuring) {
      if (hit) state.set({ measuring: afterMeasurePick(state.measuring, hit) });
      return;
    }
    if (editing?.step.type === "seam") {
      const piece = shownPieces(state)?.find(({ key }) => key === hit?.id);
      if (piece && (event.shiftKey || event.ctrlKey || event.metaKey))
        state.set({
          pickedPieces: toggled(state.pickedPieces, piece.key),
          pickedLast: piece.key,
          selected: piece.key,
        });
      else state.set({ selected: hit?.id ?? null });
      return;
    }
    state.set({ selected: hit?.id ?? null, selectedFace: hit?.face ?? null });
  }

  /** What lies at a place, and what can be done with it; while a form is open, pieces alone. */
  function openMenu({ x, y }: { x: number; y: number }): void {
    const state = workspace.getState();
    const hits = scene.current?.under(x, y) ?? [];
    if ((state.editing && !shownPieces(state)) || state.measuring || state.whole || hits.length === 0) return;
    const [first] = hits;
    state.set({ menu: { x, y, hits }, selected: first!.id, selectedFace: first!.face });
  }

  function keys(event: React.KeyboardEvent): void {
    const view = scene.current;
    if (!view || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = Math.PI / 12;
    const actions: Record<string, () => void> = event.shiftKey
      ? {
          ArrowLeft: () => view.camera.pan(-0.1, 0),
          ArrowRight: () => view.camera.pan(0.1, 0),
          ArrowUp: () => view.camera.pan(0, 0.1),
          ArrowDown: () => view.camera.pan(0, -0.1),
        }
      : {
          ArrowLeft: () => view.camera.turn(-step, 0),
          ArrowRight: () => view.camera.turn(step, 0),
          ArrowUp: () => view.camera.turn(0, -step),
          ArrowDown: () => view.camera.turn(0, step),
          "+": () => view.camera.zoom(1.25),
          "-": () => view.camera.zoom(0.8),
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
      onContextMenu={(event) => event.preventDefault()}
      onPointerDown={(event) => {
        const from = at(event);
        press.current = { ...from, button: event.button };
        scene.current?.turnAbout(from.x, from.y);
      }}
      onPointerUp={(event) => {
        const from = press.current;
        press.current = null;
        const to = at(event);
        if (!from || from.button !== event.button || Math.hypot(to.x - from.x, to.y - from.y) >= STILL) return;
        if (event.button === 0) click(event);
        else if (event.button === 2) openMenu(to);
      }}
      onPointerMove={(event) => {
        if (event.buttons !== 0) return;
        const { x, y } = at(event);
        pointer.current = { x, y };
        workspace.getState().set({ place: scene.current?.placeAt(x, y) ?? null, deeper: 0 });
        const hit = find(event);
        const { hover, set } = workspace.getState();
        const same =
          hover?.id === hit?.id &&
          hover?.face === hit?.face &&
          hover?.edge === hit?.edge &&
          hover?.corner === hit?.corner;
        if (!same) set({ hover: hit });
      }}
      onPointerLeave={() => workspace.getState().set({ hover: null, place: null })}
      onKeyDown={keys}
    />
  );
}
