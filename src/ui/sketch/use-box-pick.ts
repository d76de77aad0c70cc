"use client";
import { useEffect, useRef, useState } from "react";
import type { Vec2 } from "@/core/sketch";
import type { ViewScene } from "../viewport/scene";
import type { PlaneMap } from "./plane-map";

/** A box being drawn, in pixels of the canvas. */
export interface PickBox {
  from: Vec2;
  to: Vec2;
}

/** A press that moves less than this is a click on nothing, pixels. */
const STILL = 4;

/**
 * Picks by a box that is dragged over the view, in place of turning it; with Alt held the view turns.
 * @param scene null while boxes are not drawn. @param onBox its corners in the plane; twice the same for a mere click.
 */
export function useBoxPick(
  scene: ViewScene | null,
  map: PlaneMap | null,
  onBox: (a: Vec2, b: Vec2) => void,
): PickBox | null {
  const [box, setBox] = useState<PickBox | null>(null);
  const latest = useRef({ map, onBox });
  latest.current = { map, onBox };
  useEffect(() => {
    if (!scene) return;
    const { canvas } = scene;
    let from: Vec2 | null = null;
    const at = (event: PointerEvent): Vec2 => {
      const home = canvas.getBoundingClientRect();
      return [event.clientX - home.left, event.clientY - home.top];
    };
    const down = (event: PointerEvent) => {
      if (event.target !== canvas || event.button !== 0 || event.altKey || !latest.current.map) return;
      event.stopImmediatePropagation();
      canvas.focus();
      canvas.setPointerCapture(event.pointerId);
      from = at(event);
    };
    const move = (event: PointerEvent) => {
      if (!from) return;
      event.stopImmediatePropagation();
      setBox({ from, to: at(event) });
    };
    const up = (event: PointerEvent) => {
      if (!from) return;
      event.stopImmediatePropagation();
      const [start, end] = [from, at(event)];
      from = null;
      setBox(null);
      const { map: plane, onBox: done } = latest.current;
      if (!plane) return;
      const still = Math.hypot(end[0] - start[0], end[1] - start[1]) < STILL;
      done(plane.toPlane(start), plane.toPlane(still ? start : end));
    };
    // Before the view's own listeners, which would turn it.
    const parent = canvas.parentElement!;
    parent.addEventListener("pointerdown", down, true);
    parent.addEventListener("pointermove", move, true);
    parent.addEventListener("pointerup", up, true);
    return () => {
      parent.removeEventListener("pointerdown", down, true);
      parent.removeEventListener("pointermove", move, true);
      parent.removeEventListener("pointerup", up, true);
    };
  }, [scene]);
  return box;
}
