import { type Box3, OrthographicCamera, Sphere, Vector2, Vector3 } from "three";
import { OrbitControls } from "three/addons/controls/OrbitControls.js";
import type { Pixel } from "./near";

export const STANDARD_VIEWS = {
  corner: [1, -1.35, 0.95],
  front: [0, -1, 0],
  back: [0, 1, 0],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  top: [0, 0, 1],
  below: [0, 0, -1],
} as const;
export type StandardView = keyof typeof STANDARD_VIEWS;

type Point = readonly [number, number, number];

/** How the view looks at the model: without perspective, turned by the pointer, by keys and by name. */
export class ViewCamera {
  readonly camera = new OrthographicCamera(-100, 100, 100, -100, -10_000, 10_000);
  private readonly controls: OrbitControls;
  private size = { width: 1, height: 1 };

  /** @param onChange called whenever the view looks otherwise. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly onChange: () => void,
  ) {
    this.camera.up.set(0, 0, 1);
    this.camera.position.set(...STANDARD_VIEWS.corner).multiplyScalar(500);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.controls.addEventListener("change", onChange);
  }

  /** What the view turns about. */
  get target(): Vector3 {
    return this.controls.target;
  }

  /** Where a pixel is on the way from left to right and from below to above, −1 to 1. */
  pointer(x: number, y: number): Vector2 {
    return new Vector2((x / this.size.width) * 2 - 1, 1 - (y / this.size.height) * 2);
  }

  /** Shows all of a box, turned as the view is. */
  fit(bounds: Box3): void {
    const sphere = bounds.getBoundingSphere(new Sphere());
    const direction = this.camera.position.clone().sub(this.target).normalize();
    this.target.copy(sphere.center);
    this.camera.position.copy(sphere.center).addScaledVector(direction, sphere.radius * 4);
    const { width, height } = this.size;
    this.camera.zoom = Math.min(width, height) / (2 * Math.max(sphere.radius, 1e-3) * 1.08);
    this.camera.near = -sphere.radius * 40;
    this.camera.far = sphere.radius * 80;
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.onChange();
  }

  /** Whether all of a box can be seen. */
  holds({ min, max }: Box3): boolean {
    this.camera.updateMatrixWorld();
    return [min.x, max.x].every((x) =>
      [min.y, max.y].every((y) =>
        [min.z, max.z].every((z) => {
          const point = new Vector3(x, y, z).project(this.camera);
          return Math.abs(point.x) <= 1 && Math.abs(point.y) <= 1;
        }),
      ),
    );
  }

  /** From where the view looks at the model: a direction. */
  direction(): [number, number, number] {
    const { x, y, z } = this.camera.position.clone().sub(this.target).normalize();
    return [x, y, z];
  }

  /** Looks at the model from a direction; square at a plane from its normal. */
  lookFrom(from: Point, bounds: Box3): void {
    const direction = new Vector3(...from).normalize();
    // Straight up or down has no "up" of its own: lean by a hair, so that north is up.
    if (Math.abs(direction.z) > 0.999) direction.y -= 1e-4;
    this.camera.position.copy(this.target).addScaledVector(direction, 500);
    this.controls.update();
    this.fit(bounds);
  }

  /** Turns by an angle about the upright and the sideways axis, radians: for keys. */
  turn(sideways: number, upwards: number): void {
    const offset = this.camera.position.clone().sub(this.target);
    const up = new Vector3(0, 0, 1);
    offset.applyAxisAngle(up, sideways);
    const right = new Vector3().crossVectors(up, offset).normalize();
    const tilted = offset.clone().applyAxisAngle(right, upwards);
    if (Math.abs(tilted.clone().normalize().z) < 0.9995) offset.copy(tilted);
    this.camera.position.copy(this.target).add(offset);
    this.controls.update();
    this.onChange();
  }

  zoom(factor: number): void {
    this.camera.zoom *= factor;
    this.camera.updateProjectionMatrix();
    this.onChange();
  }

  /** Moves the view by a share of its width and height. */
  pan(x: number, y: number): void {
    const right = new Vector3().setFromMatrixColumn(this.camera.matrix, 0);
    const up = new Vector3().setFromMatrixColumn(this.camera.matrix, 1);
    const shift = right
      .multiplyScalar((x * this.size.width) / this.camera.zoom)
      .addScaledVector(up, (y * this.size.height) / this.camera.zoom);
    this.camera.position.add(shift);
    this.target.add(shift);
    this.controls.update();
    this.onChange();
  }

  /** Where a point lies on the canvas, in pixels from its corner, and how deep, −1 to 1. */
  pixel(x: number, y: number, z: number): Pixel {
    const v = new Vector3(x, y, z).project(this.camera);
    return { x: ((v.x + 1) / 2) * this.size.width, y: ((1 - v.y) / 2) * this.size.height, depth: v.z };
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    this.camera.left = -width / 2;
    this.camera.right = width / 2;
    this.camera.top = height / 2;
    this.camera.bottom = -height / 2;
    this.camera.updateProjectionMatrix();
  }

  /** Zooms as if the wheel had turned over the view itself: for what lies over it. */
  wheel(event: WheelEvent): void {
    const { deltaX, deltaY, deltaMode, clientX, clientY, ctrlKey } = event;
    this.canvas.dispatchEvent(
      new WheelEvent("wheel", {
        deltaX,
        deltaY,
        deltaMode,
        clientX,
        clientY,
        ctrlKey,
        bubbles: true,
        cancelable: true,
      }),
    );
  }

  dispose(): void {
    this.controls.dispose();
  }
}
