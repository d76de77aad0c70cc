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
    if (mesh) paint(canvas.current, [{ mesh, colour }], size);
  }, [mesh, colour, size]);
  return (
    <canvas ref={canvas} style={{ width: size, height: size }} className="shrink-0 rounded-sm bg-well" aria-hidden />
  );
});
