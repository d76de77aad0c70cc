import { useEffect } from "react";
import type { ViewScene } from "../viewport/scene";

/** Turns the view square to the plane while a sketch is open, and back afterwards. */
export function useSquareLook(
  scene: ViewScene | null,
  frame: { normal: readonly [number, number, number] } | null,
): void {
  const normal = frame?.normal.map((value) => value.toFixed(6)).join();
  useEffect(() => {
    if (!scene || !frame) return;
    const before = scene.camera.direction();
    scene.lookFrom(frame.normal);
    return () => scene.lookFrom(before);
  }, [scene, normal]);
}
