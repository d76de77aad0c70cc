"use client";
import { useMemo, useRef } from "react";
import { namesUsed } from "@/core/job";
import type { PlaneFrame } from "@/core/kernel";
import { FormulaError, type Quantity, quantityValue } from "@/core/params";
import {
  type Dimension,
  type Entity,
  flatLine,
  type Sketch,
  SketchFault,
  type SketchState,
  sided,
  sizeNow,
  solveSketch,
  withLineTurned,
} from "@/core/sketch";
import { usePart, useScope, useWorkspace } from "../state/context";

export interface OpenSketch {
  /** Where its plane lies; known once it has been built. */
  frame: PlaneFrame | null;
  sketch: Sketch;
  state: SketchState | null;
  fault: string | null;
  sizeOf(dimension: Dimension): number;
  /** The size that a dimension has as things stand, to four decimals. */
  sizeNow(dimension: Dimension): number;
  /** What is wrong with a dimension's value as it is typed; null for nothing. */
  problemOf(dimension: Dimension): string | null;
  /** Changes the value of a dimension as it is typed, wrong or not. */
  putValue(id: string, value: Quantity): void;
  /** Puts a changed drawing in; what does not hold together is refused with a sentence. */
  put(next: Sketch): string | null;
}

/** The sketch that is open in the build sheet, solved here and now, so that drawing does not wait for the engine. */
export function useSketch(): OpenSketch | null {
  const editing = useWorkspace((state) => state.editing);
  const setValues = useWorkspace((state) => state.setValues);
  const { frame, given } = usePlane();
  const scope = useScope();
  const part = usePart();
  const reserved = useMemo(() => namesUsed(part), [part]);
  const step = editing?.step.type === "sketch" ? editing.step : null;
  return useMemo(() => {
    if (!step) return null;
    const { entities, constraints, dimensions } = step as unknown as Sketch;
    const sizeOf = (dimension: Dimension): number => {
      try {
        return quantityValue(dimension.value, dimension.type === "angle" ? "angle" : "length", scope);
      } catch (cause) {
        if (cause instanceof FormulaError) throw new SketchFault(cause.message);
        throw cause;
      }
    };
    const sketch = withSides({ entities, constraints, dimensions, given, reserved }, sizeOf);
    const solved = attempt(sketch, sizeOf);
    return {
      frame,
      sketch,
      ...solved,
      sizeOf,
      sizeNow(dimension) {
        const size = sizeNow({ ...sketch, entities: solved.state?.entities ?? sketch.entities }, dimension);
        return (Math.round(size * 1e4) / 1e4) * (!dimension.measured && isBelow(dimension, sizeOf) ? -1 : 1);
      },
      problemOf(dimension) {
        try {
          quantityValue(dimension.value, dimension.type === "angle" ? "angle" : "length", scope);
          return null;
        } catch (cause) {
          if (cause instanceof FormulaError) return cause.message;
          throw cause;
        }
      },
      putValue: (id, value) =>
        setValues({ dimensions: dimensions.map((one) => (one.id === id ? { ...one, value } : one)) }),
      put(next) {
        const { state, fault } = attemptUpright(next, sizeOf);
        if (!state) return fault;
        if (!state.met) return state.conflicts[0]?.message ?? "That cannot be reached from where the drawing stands.";
        const collapsed = flatLine(state);
        if (collapsed) return `That would leave ${collapsed} without length.`;
        setValues({ entities: state.entities, constraints: next.constraints, dimensions: next.dimensions });
        return null;
      },
    };
  }, [step, frame, given, reserved, scope, setValues]);
}

/** As `attempt`; a line that would be squeezed flat is turned first, as when one that lies level is to be upright. */
function attemptUpright(sketch: Sketch, sizeOf: (dimension: Dimension) => number) {
  const plain = attempt(sketch, sizeOf);
  const flat = plain.state?.met ? flatLine(plain.state) : null;
  if (flat === null || flatLine(sketch) !== null) return plain;
  const turned = attempt(withLineTurned(sketch, flat), sizeOf);
  return turned.state?.met && flatLine(turned.state) === null ? turned : plain;
}

/** Whether a distance has come out below 0, and lies on the other side. */
function isBelow(dimension: Dimension, sizeOf: (dimension: Dimension) => number): boolean {
  try {
    return dimension.type !== "angle" && sizeOf(dimension) < 0;
  } catch (cause) {
    if (cause instanceof SketchFault) return false;
    throw cause;
  }
}

/** Before anything is drawn anew from where it stands now; what cannot be worked out yet is left as it is. */
function withSides(sketch: Sketch, sizeOf: (dimension: Dimension) => number): Sketch {
  try {
    return sided(sketch, sizeOf);
  } catch (cause) {
    if (cause instanceof SketchFault) return sketch;
    throw cause;
  }
}

function attempt(sketch: Sketch, sizeOf: (dimension: Dimension) => number) {
  try {
    return { state: solveSketch(sketch, sizeOf), fault: null };
  } catch (cause) {
    if (cause instanceof SketchFault) return { state: null, fault: cause.message };
    throw cause;
  }
}

const NOTHING: readonly Entity[] = [];

/** The plane of the open sketch and what is given to draw by; the last ones known while it cannot be built. */
function usePlane(): { frame: PlaneFrame | null; given: readonly Entity[] } {
  const last = useRef<{ step: string; frame: PlaneFrame; given: readonly Entity[] } | null>(null);
  const id = useWorkspace((state) => state.editing?.step.id);
  const item = useWorkspace((state) =>
    state.evaluation?.items.find((entry) => entry.kind === "sketch" && entry.step === id),
  );
  if (id && item?.kind === "sketch") last.current = { step: id, frame: item.frame, given: item.given };
  return last.current && last.current.step === id ? last.current : { frame: null, given: NOTHING };
}
