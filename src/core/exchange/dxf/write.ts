import { DxfWriter, point3d, SplineFlags, Units } from "@tarikjabiri/dxf";
import { type Curve, curvesOf, type Entity, pointsOf, type Vec2 } from "../../sketch";

const OUTLINES = "OUTLINES";
const HELP = "HELP";
const degrees = (angle: number): number => (angle * 180) / Math.PI;

/**
 * A sketch's curves as DXF in millimetres: lines, arcs, circles, ellipses, splines, each exactly; lettering as its
 * outlines. What only helps to draw lies on a layer of its own.
 */
export function writeDxf(entities: readonly Entity[]): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  dxf.addLayer(OUTLINES, 7, "CONTINUOUS");
  dxf.addLayer(HELP, 8, "CONTINUOUS");
  const construction = new Set(entities.filter((one) => one.construction).map(({ id }) => id));
  for (const curve of curvesOf(entities, true)) write(dxf, curve, construction.has(curve.entity) ? HELP : OUTLINES);
  for (const place of lonePoints(entities)) dxf.addPoint(place[0], place[1], 0, { layerName: HELP });
  return dxf.stringify();
}

function write(dxf: DxfWriter, { shape }: Curve, layerName: string): void {
  const place = ([x, y]: Vec2) => point3d(x, y, 0);
  switch (shape.kind) {
    case "line":
      dxf.addLine(place(shape.from), place(shape.to), { layerName });
      return;
    case "arc": {
      const [first, last] =
        shape.sweep > 0 ? [shape.start, shape.start + shape.sweep] : [shape.start + shape.sweep, shape.start];
      if (last - first > 2 * Math.PI - 1e-9) dxf.addCircle(place(shape.centre), shape.radius, { layerName });
      else
        dxf.addArc(place(shape.centre), shape.radius, wrapped(degrees(first)), wrapped(degrees(last)), { layerName });
      return;
    }
    case "ellipse": {
      // The format wants the longer axis first.
      const swap = shape.minor > shape.major;
      const [long, short] = swap ? [shape.minor, shape.major] : [shape.major, shape.minor];
      const turn = shape.turn + (swap ? Math.PI / 2 : 0);
      const start = shape.start - (swap ? Math.PI / 2 : 0);
      const axis = place([long * Math.cos(turn), long * Math.sin(turn)]);
      dxf.addEllipse(place(shape.centre), axis, short / long, start, start + shape.sweep, { layerName });
      return;
    }
    case "spline": {
      const { points, knots, degree } = shape.poles;
      dxf.addSpline(
        { controlPoints: points.map(place), knots: [...knots], degreeCurve: degree, flags: SplineFlags.Planar },
        { layerName },
      );
    }
  }
}

/** An angle of a turn, degrees from 0 to 360. */
const wrapped = (angle: number): number => ((angle % 360) + 360) % 360;

function lonePoints(entities: readonly Entity[]): Vec2[] {
  const used = new Set(entities.flatMap((entity) => (entity.type === "point" ? [] : pointsOf(entity))));
  return entities.flatMap((one): Vec2[] => (one.type === "point" && !used.has(one.id) ? [[one.x, one.y]] : []));
}
