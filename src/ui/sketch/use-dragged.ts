import { type PointerEvent, useRef, useState } from "react";
import { Drag, type Entity, type Sketch, type Vec2 } from "@/core/sketch";
import { type Grip, gripOn } from "./dragging";
import type { PlaneMap } from "./plane-map";
import type { OpenSketch } from "./use-sketch";

/** A press that moves less than this is a click, pixels. */
const STILL = 3;

interface Held {
  id: string;
  grip: Grip;
  work: Drag;
  from: Vec2;
  moved: boolean;
}

/** Parts of the sketch in the pointer's hand: moved as its rules let them, kept when they are let go of; a click picks. */
export function useDragged({
  open,
  map,
  put,
  toggle,
}: {
  open: OpenSketch | null;
  map: PlaneMap | null;
  put(next: Sketch): boolean;
  toggle(id: string): void;
}) {
  const [entities, setEntities] = useState<Entity[] | null>(null);
  const drag = useRef<Held | null>(null);
  return {
    /** The sketch as it is while something is moved; null while nothing is. */
    entities,
    held: () => drag.current !== null,
    grab(event: PointerEvent, entity: Entity): void {
      event.stopPropagation();
      const now = open?.state ? { ...open.sketch, entities: open.state.entities } : null;
      const svg = (event.currentTarget as SVGElement).ownerSVGElement;
      const home = svg?.getBoundingClientRect();
      const from = home && map ? map.toPlane([event.clientX - home.left, event.clientY - home.top]) : null;
      const grip = now && from && gripOn(now, entity, from);
      if (!grip) {
        toggle(entity.id);
        return;
      }
      svg!.setPointerCapture(event.pointerId);
      drag.current = { id: entity.id, grip, from, work: new Drag(now, open!.sizeOf, grip.held), moved: false };
    },
    /** @returns whether anything is held, and so moved. */
    move(place: Vec2): boolean {
      const held = drag.current;
      if (!held || !map) return false;
      held.moved ||= Math.hypot(place[0] - held.from[0], place[1] - held.from[1]) * map.scale > STILL;
      if (held.moved) setEntities(held.work.to(held.grip.to(place)));
      return true;
    },
    release(): void {
      const held = drag.current;
      drag.current = null;
      if (!held) return;
      if (held.moved && entities) put({ ...open!.sketch, entities });
      else toggle(held.id);
      setEntities(null);
    },
  };
}
