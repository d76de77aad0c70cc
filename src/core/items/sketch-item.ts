import { inSpace, mirroredPoint, type PlaneFrame, placedPoint, scale, turned } from "../kernel";
import { curvesOf, type Entity, filledRegions, type Profile, polyline, profileOf } from "../sketch";
import { type Handling, type Known, PLAIN, type Told } from "./handling";

/** A drawing in a plane, solved. What it encloses is worked out where it is asked for. */
export interface SketchItem extends Known {
  kind: "sketch";
  frame: PlaneFrame;
  /** What is drawn, and what was given to draw by. */
  entities: Entity[];
  /** What bodies gave, of those. */
  given: Entity[];
}

export interface SketchView extends Told {
  kind: "sketch";
  frame: PlaneFrame;
  /** What bodies give to draw by. */
  given: Entity[];
  /** Its curves as segments in space, xyz pairs: within a hundredth of what can be seen. */
  lines: number[];
  curves: number;
  /** Its straight lines, by id: to turn it about. */
  straight: string[];
  regions: RegionView[];
}

/** A closed region of a sketch, to be picked. */
export interface RegionView {
  /** The curves round it, with the side of each that it lies on. */
  key: string;
  /** A point inside it, in the sketch's plane. */
  inner: [number, number];
  /** mm² */
  area: number;
  /** Whether it is drawn out when none are chosen: it is no hole. */
  filled: boolean;
  /** Its outline and its holes as chains of places in the sketch's plane. */
  rings: [number, number][][];
}

export const sketchHandling: Handling<SketchItem, SketchView> = {
  ...PLAIN,
  restore: (stored) => ({ item: stored as SketchItem }),
  placed: (sketch, placement) => {
    const { origin, normal, x } = sketch.frame;
    const turn = (v: typeof x) => turned(v, placement.axis, placement.angle);
    return { ...sketch, frame: { origin: placedPoint(origin, placement), normal: turn(normal), x: turn(x) } };
  },
  // What is drawn stays as it is, and is looked at from behind: so its image has a frame that is right-handed again.
  mirrored: (sketch, across) => {
    const { origin, normal, x } = sketch.frame;
    const image = (v: typeof x) => mirroredPoint(v, [0, 0, 0], across);
    return { ...sketch, frame: { origin: image(origin), normal: scale(image(normal), -1), x: image(x) } };
  },
  view({ kind, frame, entities, given }, { told }) {
    const curves = curvesOf(entities, true);
    const lines = curves.flatMap((curve) =>
      polyline(
        { curve, from: 0, to: 1, stretch: 0, forwards: true },
        curve.shape.kind === "line" ? 1 : curve.entity === curve.id ? 96 : 8,
      ).flatMap((ends) => ends.flatMap((end) => [...inSpace(frame, end)])),
    );
    return {
      ...told,
      kind,
      frame,
      given,
      lines,
      curves: curves.length,
      straight: entities.filter(({ type }) => type === "line").map((line) => line.id),
      regions: regionViews(profileOf(entities)),
    };
  },
};

function regionViews(profile: Profile): RegionView[] {
  const filled = new Set(filledRegions(profile));
  return profile.regions.map((region) => ({
    key: region.key,
    inner: [...region.inner],
    area: region.area,
    filled: filled.has(region),
    rings: [region.outline, ...region.holes].map((parts) =>
      parts.flatMap((part) => polyline(part).map(([from]): [number, number] => [...from])),
    ),
  }));
}
