"use client";
import { memo, useEffect, useRef } from "react";
import type { ViewMesh } from "@/engine/contract";
import { paint } from "./paint";

/** A small picture of a mesh, drawn flat-shaded from the same corner for every card, so that shapes can be compared. */
export const Thumbnail = memo(function Thumbnail({
  mesh,
  colour,
  size = 44,
}: {
  mesh: ViewMesh | undefined;
  colour: string;
  size?: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !mesh) return;
    const scale = Math.min(window.devicePixelRatio || 1, 2);
    canvas.current!.width = size * scale;
    canvas.current!.height = size * scale;
    paint(context, [{ mesh, colour }], size * scale);
  }, [mesh, colour, size]);
  return (
    <canvas ref={canvas} style={{ width: size, height: size }} className="shrink-0 rounded-sm bg-well" aria-hidden />
  );
});
