interface Group {
  code: number;
  value: number | string | boolean;
}
interface Scanner {
  next(): Group;
  isEOF(): boolean;
}
interface Place {
  x: number;
  y: number;
}

/** Reads a SPLINE with its weights, which the parser's own handler leaves out. */
export class SplineWithWeights {
  readonly ForEntityName = "SPLINE";

  parseEntity(scanner: Scanner, group: Group): Record<string, unknown> {
    const controlPoints: Place[] = [];
    const fitPoints: Place[] = [];
    const knotValues: number[] = [];
    const weights: number[] = [];
    const entity: Record<string, unknown> = { type: group.value };
    const point = (x: number): Place => {
      const { code, value } = scanner.next();
      return { x, y: code % 10 === 0 || code > 19 ? Number(value) : 0 };
    };
    for (let curr = scanner.next(); !scanner.isEOF() && curr.code !== 0; curr = scanner.next()) {
      const value = Number(curr.value);
      if (curr.code === 10) controlPoints.push(point(value));
      else if (curr.code === 11) fitPoints.push(point(value));
      else if (curr.code === 40) knotValues.push(value);
      else if (curr.code === 41) weights.push(value);
      else if (curr.code === 70) entity.closed = (value & 1) !== 0;
      else if (curr.code === 71) entity.degreeOfSplineCurve = value;
      else if (curr.code === 8) entity.layer = curr.value;
    }
    return {
      ...entity,
      controlPoints,
      fitPoints,
      knotValues,
      ...(weights.length > 0 ? { weights } : {}),
    };
  }
}
