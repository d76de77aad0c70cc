import { DxfWriter, point3d, Units } from "@tarikjabiri/dxf";
import type { Vec3 } from "../../../kernel";
import type { OutWriter } from "../declare";
import { curvesIn } from "../of-kind";

/** Writes curves as DXF in millimetres: lines and splines in space, exactly; each curve on a layer of its own name. */
export const writeCurvesDxf: OutWriter = (items) => {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const taken = new Set<string>();
  for (const { name, spans } of curvesIn(items)) {
    const layerName = layerOf(name, taken);
    dxf.addLayer(layerName, 7, "CONTINUOUS");
    const place = ([x, y, z]: Vec3) => point3d(x, y, z);
    for (const span of spans)
      if (span.kind === "line") dxf.addLine(place(span.from), place(span.to), { layerName });
      else
        dxf.addSpline(
          {
            controlPoints: span.poles.map(place),
            knots: [...span.knots],
            degreeCurve: span.degree,
          },
          { layerName },
        );
  }
  return new TextEncoder().encode(dxf.stringify());
};

/** A name without the signs that layers may not have, and that no other layer has. */
function layerOf(name: string, taken: Set<string>): string {
  const plain = name.replace(/[^\w .-]+/g, "_").trim() || "Curve";
  let layer = plain;
  for (let n = 2; taken.has(layer.toUpperCase()); n++) layer = `${plain} ${n}`;
  taken.add(layer.toUpperCase());
  return layer;
}
