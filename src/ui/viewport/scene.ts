import same from "fast-deep-equal/es6";
import {
  AmbientLight,
  Box3,
  BufferGeometry,
  Color,
  DirectionalLight,
  Float32BufferAttribute,
  type Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  Plane,
  Quaternion,
  Raycaster,
  Scene,
  Sphere,
  Vector2,
  Vector3,
  WebGLRenderer,
} from "three";
import { LineSegments2 } from "three/addons/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/addons/lines/LineSegmentsGeometry.js";
import { Batch, type Member, MOST_VERTICES } from "./batch";
import { BodyObject } from "./body-object";
import type { Hit, ViewContent, ViewSection } from "./drawn";
import { disposeFloor, fieldFor, makeFloor } from "./floor";
import { type Candidate, distanceToSegment, nearestSeen, type Pixel } from "./near";
import { NextPicture } from "./next-picture";
import { pieceColour, type ViewColours, viewColours } from "./palette";
import { PartedBodies, type PartedSide } from "./parted";
import { colourPlane, disposePlane, makeMarker, makePlane } from "./scene-marks";
import { SectionCap } from "./section-cap";
import { STANDARD_VIEWS, type StandardView, ViewCamera } from "./view-camera";
import { ViewMaterials } from "./view-materials";

/** Pixels from an edge or corner within which a click means it. */
const REACH = 9;

/** The view: draws when something changed, and tells what is under the pointer. Knows nothing of React. */
/** The corners and the middles of the sides of a plane's square. */
const RIM = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => (x === 0 && y === 0 ? [] : [[x, y] as const])));

/** Pixels from the edge of the picture, so that what stands there has room. */
const MARGIN = 50;

export class ViewScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  /** How it looks at the model: to be turned, moved and zoomed. */
  readonly camera: ViewCamera;
  private readonly objects = new Map<string, BodyObject>();
  private readonly materials = new ViewMaterials();
  private readonly batch = new Batch(this.materials);
  private readonly parted = new PartedBodies();
  private readonly planes = new Map<string, Group>();
  private faults: { segments: ViewContent["faults"]; lines: LineSegments2 } | null = null;
  private readonly lines = new Map<string, LineSegments<BufferGeometry, LineBasicMaterial>>();
  private caps: SectionCap[] = [];
  private readonly light = new DirectionalLight(0xffffff, 2.1);
  private readonly clip = new Plane();
  private readonly markers: Group[] = [];
  private floorSteps: readonly number[] | null = null;
  private floor: { key: string; field: number; group: Group } | null = null;
  private readonly listeners = new Set<() => void>();
  private drawing: ViewContent | null = null;
  private colours: ViewColours = viewColours(false);
  private readonly picture = new NextPicture(
    () => this.drawPicture(),
    () => this.objects.size === 0 && this.lines.size === 0,
  );
  private size = { width: 0, height: 0 };
  private fitted = false;

  constructor(readonly canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, stencil: true });
    this.renderer.localClippingEnabled = true;
    // Asking whether each program was compiled waits for the graphics card. That is for who writes shaders.
    this.renderer.debug.checkShaderErrors = process.env.NODE_ENV !== "production";
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
    this.camera = new ViewCamera(canvas, () => this.render());
    this.scene.add(
      new AmbientLight(0xffffff, 1.15),
      this.light,
      this.light.target,
      this.batch.group,
      this.parted.group,
    );
  }

  draw(drawing: ViewContent): void {
    const before = this.drawing;
    // Much changes that the view does not show.
    if (before && same(before, drawing)) return;
    this.drawing = drawing;
    this.colours = viewColours(drawing.dark);
    this.scene.background = new Color(this.colours.ground);
    const wanted = new Map(drawing.bodies.map((body) => [body.id, body] as const));
    for (const [id, object] of this.objects)
      if (wanted.get(id)?.mesh !== object.source) {
        this.scene.remove(object.group);
        object.dispose();
        this.objects.delete(id);
      }
    for (const body of drawing.bodies)
      if (!this.objects.has(body.id)) {
        const object = new BodyObject(body.id, body.mesh, this.materials);
        this.objects.set(body.id, object);
        this.scene.add(object.group);
      }
    for (const body of drawing.bodies) this.objects.get(body.id)!.moveTo(body.shift);
    const clip = this.sectionPlanes(drawing.section);
    this.materials.set(this.colours, clip);
    this.drawBodies(drawing, clip);
    this.materials.tidy(() => new Set([...this.objects.values()].map(({ mesh }) => mesh.material)));
    this.lightParts(drawing);
    this.drawCaps(drawing, clip);
    this.drawPlanes(drawing);
    this.drawLines(drawing);
    this.drawMarks(drawing.marks);
    this.drawFaults(drawing.faults);
    // A view that was empty is fitted to the first thing that comes into it.
    const empty = drawing.bodies.length === 0 && drawing.lines.length === 0;
    if (empty) this.fitted = false;
    if (empty && before && before.bodies.length + before.lines.length > 0) this.picture.emptied();
    if (!this.fitted && !empty) {
      this.fitted = true;
      this.fit();
    }
    // Pulling apart never pushes a piece out of sight.
    if (
      before &&
      drawing.bodies.some((body) => body.shift.some((value) => value !== 0)) &&
      !this.camera.holds(this.bounds())
    )
      this.fit();
    this.render();
  }

  /** Small bodies together, the others one by one. */
  private drawBodies(drawing: ViewContent, clip: readonly Plane[]): void {
    const together: Member[] = [];
    const onPart = drawing.hoveredFace !== null || drawing.hoveredEdge !== null || drawing.hoveredCorner !== null;
    const sides: PartedSide[] = [];
    for (const { id, look, colour, picked, paint, shift, faces, parted } of drawing.bodies) {
      const object = this.objects.get(id)!;
      const hovered = drawing.hovered === id;
      const style = { look, colour, picked, hovered: hovered && !onPart };
      if (parted) {
        object.drawnWithOthers("body");
        object.light([]);
        const { origin, beyond } = parted;
        const sign = parted.side === "front" ? 1 : -1;
        const normal = (way: number) =>
          parted.normal.map((value) => way * value) as unknown as [number, number, number];
        sides.push({ object, origin, shift, normal: normal(sign), ...this.materials.tint(style) });
        if (beyond)
          sides.push({
            object,
            origin,
            shift,
            normal: normal(-sign),
            ...this.materials.tint({ ...style, ...beyond }),
          });
        continue;
      }
      if ((look === "body" || look === "ghost") && !paint && object.source.positions.length <= 3 * MOST_VERTICES) {
        together.push({ object, look, shift, tint: this.materials.tint(style) });
        object.drawnWithOthers(look);
      } else {
        object.style(style);
        object.paint(paint);
      }
      object.light(hovered && drawing.hoveredFace !== null ? [...new Set([...faces, drawing.hoveredFace])] : faces);
    }
    this.batch.show(together);
    this.parted.show(sides, clip);
  }

  private lightParts({ bodies, hovered, hoveredEdge, hoveredCorner }: ViewContent): void {
    for (const body of bodies) {
      const mine = hovered === body.id;
      const edges = mine && hoveredEdge !== null ? [...body.edges, hoveredEdge] : body.edges;
      const corners = mine && hoveredCorner !== null ? [...body.litCorners, hoveredCorner] : body.litCorners;
      this.objects.get(body.id)!.lightParts(
        edges,
        corners.flatMap((place) => (body.corners[place] ? [body.corners[place]] : [])),
      );
    }
  }

  /** The edge or corner near a pixel that is not hidden behind a surface. */
  near(x: number, y: number, want: "edge" | "corner", accepts: (hit: Hit) => boolean): Hit | null {
    const candidates: Candidate<Hit>[] = [];
    for (const body of this.drawing?.bodies ?? []) {
      const object = this.objects.get(body.id)!;
      const shift = object.group.position;
      const pixel = (px: number, py: number, pz: number): Pixel =>
        this.camera.pixel(px + shift.x, py + shift.y, pz + shift.z);
      if (want === "corner")
        body.corners.forEach((at, corner) => {
          const p = pixel(...(at as [number, number, number]));
          candidates.push({
            what: { id: body.id, face: null, corner },
            away: Math.hypot(p.x - x, p.y - y),
            depth: p.depth,
          });
        });
      else
        for (let edge = 0; edge * 2 < body.mesh.edgeRanges.length; edge++) {
          const line = object.edgeLine(edge);
          for (let i = 0; i + 5 < line.length; i += 6) {
            const { away, depth } = distanceToSegment(
              { x, y },
              pixel(line[i]!, line[i + 1]!, line[i + 2]!),
              pixel(line[i + 3]!, line[i + 4]!, line[i + 5]!),
            );
            if (away <= REACH) candidates.push({ what: { id: body.id, face: null, edge }, away, depth });
          }
        }
    }
    return this.seen(
      candidates.filter(({ what }) => accepts(what)),
      x,
      y,
    );
  }

  /** The item with a line near a pixel that is not hidden behind a surface. */
  lineAt(x: number, y: number): Hit | null {
    const candidates: Candidate<Hit>[] = [];
    for (const { id, lines } of this.drawing?.lines ?? [])
      for (let i = 0; i + 5 < lines.length; i += 6) {
        const { away, depth } = distanceToSegment(
          { x, y },
          this.camera.pixel(lines[i]!, lines[i + 1]!, lines[i + 2]!),
          this.camera.pixel(lines[i + 3]!, lines[i + 4]!, lines[i + 5]!),
        );
        if (away <= REACH) candidates.push({ what: { id, face: null }, away, depth });
      }
    return this.seen(candidates, x, y);
  }

  /** The candidate that is meant: the nearest of those that are not behind a surface. */
  private seen(candidates: readonly Candidate<Hit>[], x: number, y: number): Hit | null {
    if (candidates.length === 0) return null;
    const surface = this.surfaceAt(x, y);
    // A hundredth of what is shown may lie before its own edge.
    const slack = this.bounds().getBoundingSphere(new Sphere()).radius * 0.02;
    return nearestSeen(candidates, REACH, surface, slack);
  }

  /** The depth of the surface under a pixel; endless where there is none. */
  private surfaceAt(x: number, y: number): number {
    const ray = this.rayAt(x, y);
    const looks = new Map(this.drawing?.bodies.map((body) => [body.id, body.look] as const));
    const meshes = [...this.objects.values()].filter(({ id }) => looks.get(id) === "body").map(({ mesh }) => mesh);
    const [first] = ray.intersectObjects(meshes, false);
    return first ? this.camera.pixel(first.point.x, first.point.y, first.point.z).depth : Number.POSITIVE_INFINITY;
  }

  private sectionPlanes(section: ViewSection | null): Plane[] {
    if (!section) return [];
    const box = this.bounds();
    const axis = new Vector3(section.axis === "x" ? 1 : 0, section.axis === "y" ? 1 : 0, section.axis === "z" ? 1 : 0);
    const low = box.min.dot(axis);
    const high = box.max.dot(axis);
    const at = section.mm ?? low + (high - low) * section.at;
    const sign = section.flip ? 1 : -1;
    this.clip.set(axis.multiplyScalar(sign), -sign * at);
    return [this.clip];
  }

  /** The cut surfaces of closed bodies, made anew: they are few and cheap. */
  private drawCaps(drawing: ViewContent, clip: Plane[]): void {
    for (const cap of this.caps) {
      this.scene.remove(cap.group);
      cap.dispose();
    }
    this.caps = [];
    const [plane] = clip;
    if (!plane) return;
    const sphere = this.bounds().getBoundingSphere(new Sphere());
    for (const body of drawing.bodies) {
      if (!body.solid || body.look !== "body") continue;
      const object = this.objects.get(body.id)!;
      const cap = new SectionCap(
        object.mesh.geometry,
        this.caps.length,
        plane,
        sphere.radius * 4,
        `#${new Color(body.colour ?? pieceColour(this.caps.length)).lerp(new Color(this.colours.ground), 0.5).getHexString()}`,
        body.hatch,
      );
      for (const counter of cap.group.children.slice(0, 2)) counter.position.copy(object.group.position);
      this.caps.push(cap);
      this.scene.add(cap.group);
    }
  }

  /** Planes stay as they are and are moved, sized and coloured: made anew at each picture they would cost more than all bodies. */
  private drawPlanes(drawing: ViewContent): void {
    const wanted = new Set(drawing.planes.map(({ id }) => id));
    for (const [id, group] of this.planes) {
      if (wanted.has(id)) continue;
      this.scene.remove(group);
      disposePlane(group);
      this.planes.delete(id);
    }
    if (drawing.planes.length === 0) return;
    const sphere = this.bounds().getBoundingSphere(new Sphere());
    const half = Math.max(sphere.radius, 20) * 1.08;
    for (const plane of drawing.planes) {
      let group = this.planes.get(plane.id);
      if (!group) {
        group = makePlane();
        group.userData.id = plane.id;
        this.planes.set(plane.id, group);
        this.scene.add(group);
      }
      const lit = plane.picked || drawing.hovered === plane.id;
      colourPlane(group, lit ? this.colours.pick : this.colours.cutter);
      group.children[0]!.visible = plane.pane || lit;
      const normal = new Vector3(...plane.normal);
      const height = normal.dot(sphere.center.clone().sub(new Vector3(...plane.origin)));
      group.scale.setScalar(half);
      group.position.copy(sphere.center).addScaledVector(normal, -height);
      group.quaternion.copy(new Quaternion().setFromUnitVectors(new Vector3(0, 0, 1), normal));
    }
  }

  /** A corner or the middle of a side of a plane as it is drawn, that lies in the picture and as far out as any; null where none does. */
  planeRim(id: string): [number, number, number] | null {
    const group = this.planes.get(id);
    if (!group) return null;
    const { clientWidth: wide, clientHeight: high } = this.renderer.domElement;
    group.updateMatrixWorld();
    const seen = RIM.flatMap(([x, y]) => {
      const at = new Vector3(x, y, 0).applyMatrix4(group.matrixWorld).toArray() as [number, number, number];
      const spot = this.project(at);
      const inside = spot.x > MARGIN && spot.y > MARGIN && spot.x < wide - 2 * MARGIN && spot.y < high - MARGIN;
      return inside ? [{ at, out: Math.hypot(spot.x - wide / 2, spot.y - high / 2) }] : [];
    });
    return seen.sort((a, b) => b.out - a.out)[0]?.at ?? null;
  }

  private drawLines({ lines: drawn, hovered }: ViewContent): void {
    const wanted = new Map(drawn.map((one) => [one.id, one] as const));
    for (const [id, object] of this.lines)
      if (wanted.get(id)?.lines !== object.userData.lines) {
        this.scene.remove(object);
        object.geometry.dispose();
        object.material.dispose();
        this.lines.delete(id);
      }
    for (const { id, lines, picked } of drawn) {
      if (lines.length === 0) continue;
      let object = this.lines.get(id);
      if (!object) {
        const geometry = new BufferGeometry();
        geometry.setAttribute("position", new Float32BufferAttribute(lines, 3));
        object = new LineSegments(geometry, new LineBasicMaterial());
        object.userData.lines = lines;
        this.lines.set(id, object);
        this.scene.add(object);
      }
      object.material.color.set(picked || hovered === id ? this.colours.pick : this.colours.edge);
    }
  }

  private bounds(): Box3 {
    const box = new Box3();
    for (const object of this.lines.values()) box.expandByObject(object);
    for (const object of this.objects.values()) {
      if (!object.mesh.geometry.boundingBox) object.mesh.geometry.computeBoundingBox();
      box.union(object.mesh.geometry.boundingBox!.clone().translate(object.group.position));
    }
    return box.isEmpty() ? new Box3(new Vector3(-50, -50, -50), new Vector3(50, 50, 50)) : box;
  }

  /** Shows all that is drawn, or all of some points. */
  fit(points: readonly (readonly [number, number, number])[] = []): void {
    if (points.length > 0) this.camera.fit(new Box3().setFromPoints(points.map((at) => new Vector3(...at))));
    else this.camera.fit(this.bounds(), () => this.bounds());
  }

  /** Where the middle of a body or of one of its faces lies on the canvas; null where it is not drawn. */
  middleOf(id: string, face: number | null): { x: number; y: number } | null {
    const object = this.objects.get(id);
    return object ? this.project(object.middleOf(face).toArray()) : null;
  }

  look(view: StandardView): void {
    this.lookFrom(STANDARD_VIEWS[view]);
  }

  /** Looks at the model from a direction; square at a plane from its normal. */
  lookFrom(from: readonly [number, number, number]): void {
    this.camera.lookFrom(from, this.bounds(), () => this.bounds());
  }

  /** Where a point of the model lies on the canvas, in pixels. */
  project(point: readonly [number, number, number]): { x: number; y: number } {
    return this.camera.pixel(...point);
  }

  /** The place that it has on the page may be another one: what is seen fits itself to it at once, the picture at the next frame. */
  resized(): void {
    const { clientWidth, clientHeight } = this.canvas.parentElement!;
    const size = { width: Math.max(1, clientWidth), height: Math.max(1, clientHeight) };
    if (size.width === this.size.width && size.height === this.size.height) return;
    this.size = size;
    this.camera.resize(size.width, size.height);
    this.materials.resize(size.width, size.height);
    this.render();
  }

  /** What a ray from the eye through a pixel meets of bodies, the nearest first; nothing that is cut away or ghosted. */
  private meets(ray: Raycaster, ghosts: boolean) {
    const looks = new Map(this.drawing?.bodies.map((body) => [body.id, body.look] as const));
    const meshes = [...this.objects.values()]
      .filter((object) => ghosts || looks.get(object.id) !== "ghost")
      .map((object) => object.mesh);
    const cut = this.drawing?.section ? this.clip : null;
    return ray.intersectObjects(meshes, false).filter((entry) => !cut || cut.distanceToPoint(entry.point) >= 0);
  }

  private rayAt(x: number, y: number): Raycaster {
    const ray = new Raycaster();
    ray.setFromCamera(this.camera.pointer(x, y), this.camera.camera);
    return ray;
  }

  /** All that lies under a pixel, the nearest first: each face of each body once. */
  under(x: number, y: number): Hit[] {
    const found = new Map<string, Hit>();
    for (const { object, faceIndex } of this.meets(this.rayAt(x, y), false)) {
      const body = object.userData.object as BodyObject;
      const face = body.faceOf(faceIndex ?? -1);
      const key = `${body.id}|${face}`;
      if (!found.has(key)) found.set(key, { id: body.id, face });
    }
    return [...found.values()];
  }

  /** Where the pointer is in the model: on what it points at, else on the floor; null where it is on neither. */
  placeAt(x: number, y: number): { at: [number, number, number]; on: "body" | "floor" } | null {
    const ray = this.rayAt(x, y);
    const [first] = this.meets(ray, false);
    if (first) return { at: first.point.toArray(), on: "body" };
    if (Math.abs(ray.ray.direction.z) < 0.02) return null;
    const floor = ray.ray.intersectPlane(new Plane(new Vector3(0, 0, 1), 0), new Vector3());
    return floor && { at: floor.toArray(), on: "floor" };
  }

  /** What the view turns about from now on, where something lies under the pixel. */
  turnAbout(x: number, y: number): void {
    const [first] = this.meets(this.rayAt(x, y), false);
    if (first) this.camera.turnAbout(first.point.toArray());
  }

  /** What lies under a point of the canvas, in pixels from its corner: the nearest that is not cut away or ghosted. */
  hit(x: number, y: number, ghosts: boolean): Hit | null {
    const ray = this.rayAt(x, y);
    const [first] = this.meets(ray, ghosts);
    const planeHit = ray.intersectObjects(
      [...this.planes.values()].flatMap((group) => group.children.filter((child) => child instanceof Mesh)),
      false,
    )[0];
    if (first) {
      const object = first.object.userData.object as BodyObject;
      return { id: object.id, face: object.faceOf(first.faceIndex ?? -1) };
    }
    return planeHit ? { id: planeHit.object.parent!.userData.id as string, face: null } : null;
  }

  /** The nearest under a pixel of what is wanted, ghosts too. */
  firstOf(x: number, y: number, wanted: (hit: Hit) => boolean): Hit | null {
    for (const { object, faceIndex } of this.meets(this.rayAt(x, y), true)) {
      const body = object.userData.object as BodyObject;
      const hit = { id: body.id, face: body.faceOf(faceIndex ?? -1) };
      if (wanted(hit)) return hit;
    }
    return null;
  }

  /** Calls back whenever the view was drawn anew; returns how to stop that. */
  onView(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private render(): void {
    this.picture.ask();
  }

  private drawPicture(): void {
    // What changed the page may have changed the place of the view with it: one picture for both.
    this.resized();
    const drawn = this.renderer.getSize(new Vector2());
    // A new size wipes what is drawn, so it is set when the new picture follows.
    if (drawn.x !== this.size.width || drawn.y !== this.size.height)
      this.renderer.setSize(this.size.width, this.size.height, false);
    this.drawFloor();
    const { camera, target } = this.camera;
    const offset = camera.position.clone().sub(target);
    const side = new Vector3().crossVectors(camera.up, offset).multiplyScalar(0.35);
    this.light.position
      .copy(camera.position)
      .add(side)
      .addScaledVector(camera.up, offset.length() * 0.4);
    this.light.target.position.copy(target);
    for (const marker of this.markers) {
      marker.scale.setScalar(9 / this.camera.pixelsPerMm);
      marker.quaternion.copy(camera.quaternion);
    }
    this.renderer.render(this.scene, camera);
    for (const listener of this.listeners) listener();
    this.canvas.dataset.frames = String(Number(this.canvas.dataset.frames ?? 0) + 1);
  }

  /** A floor at Z 0 under the part, ruled as finely as can be told apart; null takes it away. @returns the width of a field, mm. */
  setFloor(steps: readonly number[] | null): void {
    this.floorSteps = steps;
    this.drawFloor();
    this.render();
  }

  /** How wide a field of the floor is, mm; null where there is no floor. */
  get floorField(): number | null {
    return this.floor?.field ?? null;
  }

  private drawFloor(): void {
    const field = this.floorSteps && fieldFor(this.floorSteps, this.camera.pixelsPerMm);
    const box = this.bounds();
    const key = field ? `${field} ${box.min.toArray()} ${box.max.toArray()} ${this.colours.edge}` : "";
    if (key === (this.floor?.key ?? "")) return;
    if (this.floor) {
      this.scene.remove(this.floor.group);
      disposeFloor(this.floor.group);
      this.floor = null;
    }
    if (!field) return;
    const group = makeFloor(box, field, this.colours.edge);
    this.floor = { key, field, group };
    this.scene.add(group);
  }

  private drawMarks(places: ViewContent["marks"]): void {
    while (this.markers.length < places.length) {
      const marker = makeMarker();
      this.markers.push(marker);
      this.scene.add(marker);
    }
    for (const [i, marker] of this.markers.entries()) {
      const at = places[i];
      marker.visible = at !== undefined;
      if (at) marker.position.set(...(at as [number, number, number]));
    }
  }

  private drawFaults(segments: ViewContent["faults"]): void {
    if (this.faults?.segments === segments || (!this.faults && segments.length === 0)) return;
    if (this.faults) {
      this.scene.remove(this.faults.lines);
      this.faults.lines.geometry.dispose();
      this.faults = null;
    }
    if (segments.length === 0) return;
    const lines = new LineSegments2(new LineSegmentsGeometry().setPositions([...segments]), this.materials.fault);
    lines.computeLineDistances();
    lines.renderOrder = 6;
    this.faults = { segments, lines };
    this.scene.add(lines);
  }

  dispose(): void {
    this.picture.stop();
    this.faults?.lines.geometry.dispose();
    this.camera.dispose();
    this.batch.dispose();
    this.parted.dispose();
    for (const object of this.objects.values()) object.dispose();
    for (const cap of this.caps) cap.dispose();
    this.materials.dispose();
    this.renderer.dispose();
  }
}
