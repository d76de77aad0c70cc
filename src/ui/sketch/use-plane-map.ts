"use client";
import { useEffect, useState } from "react";
import type { PlaneFrame } from "@/core/kernel";
import type { ViewScene } from "../viewport/scene";
import { type PlaneMap, planeMap } from "./plane-map";

/** The map of a plane onto the canvas, anew whenever the view moves. */
export function usePlaneMap(scene: ViewScene | null, frame: PlaneFrame | null): PlaneMap | null {
  const [, tick] = useState(0);
  useEffect(() => scene?.onView(() => tick((n) => n + 1)), [scene]);
  return scene && frame ? planeMap(scene, frame) : null;
}
