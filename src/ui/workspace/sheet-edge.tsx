"use client";
import { type PointerEvent, useRef } from "react";
import { useSettings } from "../settings/settings";

export const SHEET_WIDTH = { least: 260, most: 720, usual: 320 };

/** The edge between the view and the build sheet: dragged, or moved with the arrow keys; pressed twice it goes back. */
export function SheetEdge() {
  const width = useSettings((state) => state.sheetWidth);
  const change = useSettings((state) => state.change);
  const from = useRef<{ x: number; width: number } | null>(null);
  const put = (next: number) => {
    // The view keeps at least half of the window.
    const most = Math.min(SHEET_WIDTH.most, window.innerWidth / 2);
    change({ sheetWidth: Math.round(Math.min(most, Math.max(SHEET_WIDTH.least, next))) });
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule cannot be moved
    <div
      role="separator"
      tabIndex={0}
      aria-label="Width of the build sheet"
      aria-orientation="vertical"
      aria-valuenow={width}
      aria-valuemin={SHEET_WIDTH.least}
      aria-valuemax={SHEET_WIDTH.most}
      className="absolute inset-y-0 -left-1 z-10 w-2 cursor-col-resize touch-none hover:bg-pick/40 focus-visible:bg-pick/60"
      onDoubleClick={() => put(SHEET_WIDTH.usual)}
      onPointerDown={(event: PointerEvent<HTMLDivElement>) => {
        from.current = { x: event.clientX, width };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => from.current && put(from.current.width + from.current.x - event.clientX)}
      onPointerUp={() => {
        from.current = null;
      }}
      onKeyDown={(event) => {
        const step = { ArrowLeft: 20, ArrowRight: -20 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        put(width + step);
      }}
    />
  );
}
