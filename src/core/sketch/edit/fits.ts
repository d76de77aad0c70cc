import { allOf, BUILT_IN, type ConstraintType, type DimensionType, type EntityType, type Sketch } from "../entities";

const ROUND: readonly EntityType[] = ["circle", "arc"];
const CENTRED: readonly EntityType[] = ["circle", "arc", "ellipse"];

/** What each constraint can hold between, in the order in which it names them. */
const FITS: Record<ConstraintType, readonly (readonly (EntityType | readonly EntityType[])[])[]> = {
  coincident: [["point", "point"]],
  on: [
    ["point", "line"],
    ["point", ["circle", "arc", "ellipse", "spline"]],
  ],
  midpoint: [["point", "line"]],
  horizontal: [["line"], ["point", "point"]],
  vertical: [["line"], ["point", "point"]],
  parallel: [["line", "line"]],
  perpendicular: [["line", "line"]],
  tangent: [
    ["line", CENTRED],
    [ROUND, ROUND],
    ["spline", ["line", "arc", "spline"]],
  ],
  equal: [
    ["line", "line"],
    [ROUND, ROUND],
  ],
  concentric: [[CENTRED, CENTRED]],
  symmetric: [["point", "point", "line"]],
  fixed: [["point"], ["line"], ["circle"], ["arc"], ["ellipse"], ["spline"], ["text"]],
};

/** What picked things are between, in the order that a rule asks for; null when it does not fit them. */
function ordered(
  sketch: Pick<Sketch, "entities" | "given">,
  picked: readonly string[],
  wanted: readonly (EntityType | readonly EntityType[])[],
): string[] | null {
  if (picked.length !== wanted.length) return null;
  const kindOf = (id: string): EntityType | undefined =>
    id === "origin"
      ? "point"
      : (BUILT_IN as readonly string[]).includes(id)
        ? "line"
        : allOf(sketch).find((entity) => entity.id === id)?.type;
  const left = [...picked];
  const result: string[] = [];
  for (const want of wanted) {
    const at = left.findIndex((id) => [want].flat().includes(kindOf(id) as EntityType));
    if (at < 0) return null;
    result.push(...left.splice(at, 1));
  }
  return result;
}

/** The constraints that fit what is picked, each with its entities in the order that it asks for. */
export function fittingConstraints(
  sketch: Sketch,
  picked: readonly string[],
): { type: ConstraintType; of: string[] }[] {
  return (Object.keys(FITS) as ConstraintType[]).flatMap((type) => {
    for (const wanted of FITS[type]) {
      const of = ordered(sketch, picked, wanted);
      if (of) return [{ type, of }];
    }
    return [];
  });
}

/** The dimensions that fit what is picked. */
export function fittingDimensions(sketch: Sketch, picked: readonly string[]): { type: DimensionType; of: string[] }[] {
  const choices: [DimensionType, readonly (EntityType | readonly EntityType[])[]][] = [
    ["distance", ["line"]],
    ["distance", ["point", "point"]],
    ["across", ["point", "point"]],
    ["upright", ["point", "point"]],
    ["distance", ["point", "line"]],
    ["distance", ["text"]],
    ["diameter", [ROUND]],
    ["radius", [ROUND]],
    ["angle", ["line", "line"]],
  ];
  return choices.flatMap(([type, wanted]) => {
    const of = ordered(sketch, picked, wanted);
    return of ? [{ type, of }] : [];
  });
}
