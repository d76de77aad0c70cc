"use client";
import { useEffect, useRef, useState } from "react";
import { unpack } from "@/core/evaluate/pack";
import type { Part } from "@/core/job";
import { type Evaluation, isBodyView } from "@/engine/contract";
import { type Painted, paint } from "../pictures/paint";
import { api } from "../state/api";
import { lookOf } from "../state/looks";
import { colourOf } from "../state/tints";

const SIZE = 56;

/** The first part of a job as it was last seen, drawn when its row comes into sight; an empty field where nobody looked yet. */
export function JobPicture({ id, changed }: { id: string; changed: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => entry!.isIntersecting && setSeen(true));
    watch.observe(canvas.current!);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    if (!seen) return;
    let over = false;
    void api.view(id).then((bytes) => {
      if (over || !bytes) return;
      if (paint(canvas.current, bodiesOf(bytes), SIZE)) canvas.current!.dataset.drawn = "";
    });
    return () => {
      over = true;
    };
  }, [seen, id, changed]);
  return (
    <canvas
      ref={canvas}
      width={SIZE}
      height={SIZE}
      data-picture={id}
      style={{ width: SIZE, height: SIZE }}
      className="shrink-0 rounded-sm bg-well"
      aria-hidden
    />
  );
}

function bodiesOf(bytes: Uint8Array): Painted[] {
  try {
    const { view, looks } = unpack(bytes) as { view: Uint8Array; looks: Part["looks"] };
    const { items } = unpack(view) as Evaluation;
    const dark = document.documentElement.dataset.theme === "dark";
    return items.filter(isBodyView).flatMap((body) => {
      const look = lookOf({ looks }, body);
      // What is seen through is left out: the picture shows what is in it.
      if (!body.mesh || look.clear) return [];
      return [{ mesh: body.mesh, colour: colourOf(body.id, look, items, dark) }];
    });
  } catch {
    // What an older release stored is drawn when the job is opened again.
    return [];
  }
}
