import type { PointerEvent } from "react";
import { type Curve, curvesOf, type Entity, type Vec2 } from "@/core/sketch";
import { EntityMark, PointMark } from "./marks";
import type { PlaneMap } from "./plane-map";

/** What is drawn, what bodies give to draw by, and the ends that meet nothing. Points lie over the curves that they belong to. */
export function DrawnParts({
  given,
  entities,
  map,
  loose,
  picked,
  live,
  openEnds,
  onGrab,
}: {
  given: readonly Entity[];
  entities: readonly Entity[];
  map: PlaneMap;
  /** What can still move, by id. */
  loose: ReadonlySet<string>;
  picked: readonly string[];
  /** Whether it can be picked and dragged. */
  live: boolean;
  openEnds: readonly { at: Vec2; curve: string }[];
  onGrab(event: PointerEvent, entity: Entity): void;
}) {
  const all = [...given, ...entities];
  const curves = byEntity(curvesOf(all, true));
  const marks = (entity: Entity) => ({
    id: entity.id,
    map,
    loose: loose.has(entity.id),
    picked: picked.includes(entity.id),
    live,
    given: given.includes(entity),
    onGrab: (event: PointerEvent) => onGrab(event, entity),
  });
  return (
    <>
      {all.map((entity) => {
        if (entity.type === "point") return null;
        const { id, ...rest } = marks(entity);
        return (
          <EntityMark key={id} id={id} curves={curves.get(id) ?? []} construction={entity.construction} {...rest} />
        );
      })}
      {all.map((entity) => {
        if (entity.type !== "point") return null;
        const { id, map: _map, ...rest } = marks(entity);
        return <PointMark key={id} id={id} at={map.toPixel([entity.x, entity.y])} {...rest} />;
      })}
      {openEnds.map(({ at, curve }) => {
        const [x, y] = map.toPixel(at);
        return (
          <circle
            key={`${curve} ${x} ${y}`}
            data-open-end
            cx={x}
            cy={y}
            r={9}
            fill="none"
            stroke="var(--warn)"
            strokeWidth={1.5}
            strokeDasharray="3 2.5"
          />
        );
      })}
    </>
  );
}

function byEntity(curves: readonly Curve[]): Map<string, Curve[]> {
  const groups = new Map<string, Curve[]>();
  for (const curve of curves) {
    const group = groups.get(curve.entity);
    if (group) group.push(curve);
    else groups.set(curve.entity, [curve]);
  }
  return groups;
}
