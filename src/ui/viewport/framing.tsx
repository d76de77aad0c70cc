"use client";
import { useState } from "react";
import { useWorkspace } from "../state/context";
import type { ViewScene } from "./scene";

interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A frame drawn over the view: what lies in it is seen as large as it goes. Escape leaves it. */
export function Framing({ scene }: { scene: ViewScene | null }) {
  const on = useWorkspace((state) => state.framing);
  const set = useWorkspace((state) => state.set);
  const [from, setFrom] = useState<{ x: number; y: number } | null>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  if (!on) return null;
  const at = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  return (
    <div
      data-framing
      className="absolute inset-0 z-10 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom(at(event));
      }}
      onPointerMove={(event) => {
        if (!from) return;
        const to = at(event);
        setFrame({
          x: Math.min(from.x, to.x),
          y: Math.min(from.y, to.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        });
      }}
      onPointerUp={() => {
        if (frame) scene?.camera.fitFrame(frame.x, frame.y, frame.width, frame.height);
        setFrom(null);
        setFrame(null);
        set({ framing: false });
      }}
    >
      <p className="absolute top-2 left-2 rounded bg-sheet px-2 py-1 text-[0.8125rem] shadow">
        Draw a frame round what you want to see. Escape leaves it.
      </p>
      {frame ? (
        <div
          className="absolute border-2 border-dashed border-pick bg-pick/10"
          style={{ left: frame.x, top: frame.y, width: frame.width, height: frame.height }}
        />
      ) : null}
    </div>
  );
}
