import { type Box3, MOUSE, OrthographicCamera, PerspectiveCamera, Sphere, TOUCH, Vector2, Vector3 } from "three";
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

/** How much of the view is covered along each side, pixels: what is shown stands in the middle of what is free. */
export interface Covered {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const NOTHING: Covered = { left: 0, right: 0, top: 0, bottom: 0 };

/** What dragging and the wheel do. */
export interface Gestures {
  drag: "turn" | "shift";
  wheel: "nearer" | "farther";
}

/** A way to look at the model. */
export interface Stance {
  /** The direction in which the eye lies. */
  from: readonly [number, number, number];
  /** What stands in the middle of what is free of the view, mm. */
  at: readonly [number, number, number];
  /** How much is seen across the smaller side of what is free, mm. */
  across: number;
}

/** Degrees from below to above that the view in perspective takes in. */
const ANGLE = 32;
const HALF_HEIGHT = Math.tan((ANGLE * Math.PI) / 360);

/** How the view looks at the model: in parallel or in perspective, turned by the pointer, by keys and by name. */
export class ViewCamera {
  private readonly parallel = new OrthographicCamera(-100, 100, 100, -100, -10_000, 10_000);
  private readonly converging = new PerspectiveCamera(ANGLE, 1, 0.1, 10_000);
  private readonly controls: OrbitControls;
  private size = { width: 1, height: 1 };
  private covered = NOTHING;
  /** How far what the view turns about lies from its middle, pixels: to the right and up. */
  private shift = { x: 0, y: 0 };
  private reach = 100;
  /** What it was last made to show whole, and how it stood then. */
  private fitted: { bounds: () => Box3; target: Vector3; scale: number } | null = null;
  perspective = false;

  /** @param onChange called whenever the view looks otherwise. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly onChange: () => void,
  ) {
    for (const camera of [this.parallel, this.converging]) {
      camera.up.set(0, 0, 1);
      camera.position.set(...STANDARD_VIEWS.corner).multiplyScalar(500);
    }
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.controls.addEventListener("change", onChange);
  }

  /** The one that looks. */
  get camera(): OrthographicCamera | PerspectiveCamera {
    return this.perspective ? this.converging : this.parallel;
  }

  /** Pixels that a millimetre takes up at what the view turns about. */
  get pixelsPerMm(): number {
    if (!this.perspective) return this.parallel.zoom;
    return this.size.height / (2 * HALF_HEIGHT * this.converging.position.distanceTo(this.target) || 1);
  }

  gestures({ drag, wheel }: Gestures): void {
    const other = drag === "turn" ? "shift" : "turn";
    const mouse = { turn: MOUSE.ROTATE, shift: MOUSE.PAN };
    this.controls.mouseButtons = { LEFT: mouse[drag], MIDDLE: mouse[other], RIGHT: mouse[other] };
    const touch = { turn: TOUCH.ROTATE, shift: TOUCH.PAN };
    this.controls.touches = { ONE: touch[drag], TWO: drag === "turn" ? TOUCH.DOLLY_PAN : TOUCH.DOLLY_ROTATE };
    this.controls.zoomSpeed = wheel === "nearer" ? 1 : -1;
  }

  /** From parallel to perspective and back: what the view turns about stays as large as it is. */
  setPerspective(on: boolean): void {
    if (on === this.perspective) return;
    const scale = this.pixelsPerMm;
    const way = this.camera.position.clone().sub(this.target).normalize();
    this.perspective = on;
    this.controls.object = this.camera;
    this.stand(way, scale);
  }

  /** Tells how much of the view is covered; what is shown moves into the middle of the rest. */
  cover(covered: Covered): void {
    if ((Object.keys(covered) as (keyof Covered)[]).every((side) => covered[side] === this.covered[side])) return;
    const before = this.middle;
    this.covered = covered;
    this.shift = { x: this.shift.x + this.middle.x - before.x, y: this.shift.y + this.middle.y - before.y };
    this.project();
    // Nobody has moved nearer: what was to be seen whole stays whole in what is free. It never grows by itself.
    const whole = this.fitted;
    if (whole && this.isAsFitted(whole) && !this.holds(whole.bounds(), covered)) this.fit(whole.bounds(), whole.bounds);
    else this.onChange();
  }

  private isAsFitted({ target, scale }: { target: Vector3; scale: number }): boolean {
    return target.distanceTo(this.target) * scale < 1 && Math.abs(this.pixelsPerMm / scale - 1) < 1e-6;
  }

  /** The middle of what is free, pixels from the middle of the view: to the right and up. */
  private get middle() {
    const { left, right, top, bottom } = this.covered;
    return { x: (left - right) / 2, y: (bottom - top) / 2 };
  }

  /** Turns about another point from now on; nothing moves for it. */
  turnAbout(point: Point): void {
    // In perspective a shifted picture is another one, so it goes on turning about what it turns about.
    if (this.perspective) return;
    const at = this.pixel(...point);
    this.shift = { x: at.x - this.size.width / 2, y: this.size.height / 2 - at.y };
    const by = new Vector3(...point).sub(this.target);
    this.target.add(by);
    this.camera.position.add(by);
    this.camera.updateMatrixWorld();
    this.project();
  }

  /** Stands off what it turns about so that a millimetre there takes up so many pixels. */
  private stand(way: Vector3, scale: number): void {
    const { height } = this.size;
    if (this.perspective) {
      const distance = height / (2 * HALF_HEIGHT * scale);
      this.converging.position.copy(this.target).addScaledVector(way, distance);
    } else {
      this.parallel.position.copy(this.target).addScaledVector(way, this.reach * 4);
      this.parallel.zoom = scale;
    }
    this.project();
    this.controls.update();
    this.onChange();
  }

  /** Makes the picture fit its size, and what it turns about stand where it stands. */
  private project(): void {
    const { width, height } = this.size;
    const { x, y } = this.shift;
    // The frame is moved against its picture. In pixels before zooming, as the frame is given.
    this.parallel.left = -width / 2;
    this.parallel.right = width / 2;
    this.parallel.top = height / 2;
    this.parallel.bottom = -height / 2;
    this.parallel.near = -this.reach * 40;
    this.parallel.far = this.reach * 80;
    this.converging.aspect = width / height;
    const distance = this.converging.position.distanceTo(this.target);
    this.converging.near = Math.max(distance / 1000, distance - this.reach * 20);
    this.converging.far = distance + this.reach * 40;
    for (const camera of [this.parallel, this.converging]) {
      if (x === 0 && y === 0) camera.clearViewOffset();
      else camera.setViewOffset(width, height, -x, y, width, height);
      camera.updateProjectionMatrix();
    }
  }

  /** What the view turns about. */
  get target(): Vector3 {
    return this.controls.target;
  }

  /** Where a pixel is on the way from left to right and from below to above, −1 to 1. */
  pointer(x: number, y: number): Vector2 {
    return new Vector2((x / this.size.width) * 2 - 1, 1 - (y / this.size.height) * 2);
  }

  /** Shows all of a box, turned as the view is. @param later the same box as it will be when less of the view is free. */
  fit(bounds: Box3, later = () => bounds): void {
    const sphere = bounds.getBoundingSphere(new Sphere());
    const direction = this.camera.position.clone().sub(this.target).normalize();
    this.target.copy(sphere.center);
    this.shift = this.middle;
    this.reach = Math.max(sphere.radius, 1e-3);
    this.stand(direction, this.free / (2 * this.reach * 1.08));
    this.fitted = { bounds: later, target: this.target.clone(), scale: this.pixelsPerMm };
  }

  /** The smaller side of what is free of the view, pixels. */
  private get free(): number {
    const { left, right, top, bottom } = this.covered;
    // At least a third of the view, so that panels over all of it do not make a speck of the part.
    const width = Math.max(this.size.width - left - right, this.size.width / 3);
    const height = Math.max(this.size.height - top - bottom, this.size.height / 3);
    return Math.min(width, height);
  }

  /** How the view looks now, whatever the size of the window: from where, at what, and how much of it. */
  stance(): Stance {
    const scale = this.pixelsPerMm;
    const right = new Vector3().setFromMatrixColumn(this.camera.matrix, 0);
    const up = new Vector3().setFromMatrixColumn(this.camera.matrix, 1);
    const at = this.target
      .clone()
      .addScaledVector(right, (this.middle.x - this.shift.x) / scale)
      .addScaledVector(up, (this.middle.y - this.shift.y) / scale);
    return { from: this.direction(), at: at.toArray(), across: this.free / scale };
  }

  /** Looks as it looked at another time. */
  take({ from, at, across }: Stance): void {
    this.target.set(...at);
    this.shift = this.middle;
    this.reach = Math.max(this.reach, across / 2);
    const way = new Vector3(...from).normalize();
    // Straight up or down has no "up" of its own: lean by a hair, so that north is up.
    if (Math.abs(way.z) > 0.99999999) way.y -= 1e-4;
    this.camera.position.copy(this.target).addScaledVector(way, 500);
    this.controls.update();
    this.stand(way, this.free / across);
  }

  /** Shows what lies in a rectangle of the canvas as large as it goes; pixels from its corner. */
  fitFrame(x: number, y: number, width: number, height: number): void {
    if (width < 4 || height < 4) return;
    const scale = this.pixelsPerMm;
    const right = new Vector3().setFromMatrixColumn(this.camera.matrix, 0);
    const up = new Vector3().setFromMatrixColumn(this.camera.matrix, 1);
    const off = {
      x: x + width / 2 - this.size.width / 2 - this.shift.x,
      y: this.size.height / 2 - (y + height / 2) - this.shift.y,
    };
    this.target.addScaledVector(right, off.x / scale).addScaledVector(up, off.y / scale);
    this.shift = this.middle;
    const { left, right: r, top, bottom } = this.covered;
    const grow = Math.min((this.size.width - left - r) / width, (this.size.height - top - bottom) / height);
    const back = new Vector3().setFromMatrixColumn(this.camera.matrix, 2);
    this.stand(back, scale * Math.max(grow, 0.01));
  }

  /** Whether all of a box can be seen, beside what is covered. */
  holds({ min, max }: Box3, { left, right, top, bottom }: Covered = NOTHING): boolean {
    this.camera.updateMatrixWorld();
    const { width, height } = this.size;
    return [min.x, max.x].every((x) =>
      [min.y, max.y].every((y) =>
        [min.z, max.z].every((z) => {
          const at = this.pixel(x, y, z);
          return at.x >= left && at.x <= width - right && at.y >= top && at.y <= height - bottom;
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
  lookFrom(from: Point, bounds: Box3, later?: () => Box3): void {
    const direction = new Vector3(...from).normalize();
    // Straight up or down has no "up" of its own: lean by a hair, so that north is up.
    if (Math.abs(direction.z) > 0.999) direction.y -= 1e-4;
    this.camera.position.copy(this.target).addScaledVector(direction, 500);
    this.controls.update();
    this.fit(bounds, later);
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
    this.stand(this.camera.position.clone().sub(this.target).normalize(), this.pixelsPerMm * factor);
  }

  /** Moves the view by a share of its width and height. */
  pan(x: number, y: number): void {
    const right = new Vector3().setFromMatrixColumn(this.camera.matrix, 0);
    const up = new Vector3().setFromMatrixColumn(this.camera.matrix, 1);
    const shift = right
      .multiplyScalar((x * this.size.width) / this.pixelsPerMm)
      .addScaledVector(up, (y * this.size.height) / this.pixelsPerMm);
    this.camera.position.add(shift);
    this.target.add(shift);
    this.controls.update();
    this.onChange();
  }

  /** Where a point lies on the canvas, in pixels from its corner, and how deep in the picture, mm. */
  pixel(x: number, y: number, z: number): Pixel {
    const seen = new Vector3(x, y, z).applyMatrix4(this.camera.matrixWorldInverse);
    const depth = -seen.z;
    const v = seen.applyMatrix4(this.camera.projectionMatrix);
    return { x: ((v.x + 1) / 2) * this.size.width, y: ((1 - v.y) / 2) * this.size.height, depth };
  }

  /** Which way the model's axes run on the canvas: to the right, up and towards the eye. */
  axes(): Record<"x" | "y" | "z", [number, number, number]> {
    this.camera.updateMatrixWorld();
    const { elements: m } = this.camera.matrixWorldInverse;
    return { x: [m[0]!, m[1]!, m[2]!], y: [m[4]!, m[5]!, m[6]!], z: [m[8]!, m[9]!, m[10]!] };
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    this.project();
    const whole = this.fitted;
    if (whole && this.isAsFitted(whole) && !this.holds(whole.bounds(), this.covered))
      this.fit(whole.bounds(), whole.bounds);
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
