import {
  arcAround,
  arcOnwards,
  arcThrough,
  centredRectangle,
  circleThrough,
  ellipseAbout,
  type Place,
  polygon,
  rectangle,
  type SketchEdit,
  slot,
  textWidth,
  type Vec2,
} from "@/core/sketch";
import type { LineRule } from "../snapping";
import type { Settings } from "./settings";

/** A place that was clicked or is pointed at, and what the way to it holds. */
export interface Stop {
  place: Place;
  at: Vec2;
  line?: LineRule | null;
}

export type SizeName = "width" | "height" | "length" | "angle" | "diameter" | "radius" | "turn";
export type Sizes = Partial<Record<SizeName, number>>;

/** Sizes, mm and degrees, that finish a shape once some places are clicked; they stay as its dimensions. */
interface Typed {
  after: number;
  fields: readonly SizeName[];
  draw(edit: SketchEdit, stops: readonly Stop[], sizes: Required<Sizes>, settings: Settings): readonly string[] | null;
}

export interface DrawTool {
  label: string;
  /** What each click is; the last one again and again where a shape takes many. */
  clicks: readonly string[];
  many?: { least: number; closes: boolean };
  /** Goes on from where it ended, until it is laid down or comes back to its beginning. */
  chain?: boolean;
  settings?: readonly (keyof Settings)[];
  /** Draws it and tells what it drew; null where the places make nothing. */
  draw(edit: SketchEdit, stops: readonly Stop[], settings: Settings, closed?: boolean): readonly string[] | null;
  typed?: Typed;
}

/** Closer than this, mm, and two clicks are one. */
export const STILL = 1e-6;
const apart = (a: Stop, b: Stop): number => Math.hypot(b.at[0] - a.at[0], b.at[1] - a.at[1]);
const places = (stops: readonly Stop[]): Place[] => stops.map(({ place }) => place);
const list = (id: string | null): string[] | null => (id === null ? null : [id]);
const towards = ({ at: [x, y] }: Stop, length: number, angle: number): Vec2 => {
  const turn = (angle * Math.PI) / 180;
  return [x + length * Math.cos(turn), y + length * Math.sin(turn)];
};

function line(edit: SketchEdit, [from, to]: readonly Stop[]): string[] | null {
  if (apart(from!, to!) < STILL) return null;
  const id = edit.line(from!.place, to!.place);
  const rule = to!.line;
  if (rule) edit.hold(rule.type, rule.with ? [rule.with, id] : [id]);
  return [id];
}

/** Level and upright where the angle is; else held by a dimension from the X axis. */
function holdAngle(edit: SketchEdit, id: string, angle: number): void {
  const turns = Math.round(angle / 90);
  if (Math.abs(angle - 90 * turns) < 1e-9) edit.hold(turns % 2 === 0 ? "horizontal" : "vertical", [id]);
  else edit.size("angle", ["axis-x", id], angle);
}

const sized = (make: (edit: SketchEdit, a: Place, b: Place) => string[], share: number): Typed => ({
  after: 1,
  fields: ["width", "height"],
  draw(edit, [from], { width, height }) {
    const [x, y] = from!.at;
    const sides = make(edit, from!.place, [x + width * share, y + height * share]);
    edit.size("distance", [sides[0]!], Math.abs(width));
    edit.size("distance", [sides[1]!], Math.abs(height));
    return sides;
  },
});

const box =
  (make: (edit: SketchEdit, a: Place, b: Place) => string[]) =>
  (edit: SketchEdit, [a, b]: readonly Stop[]): string[] | null =>
    Math.min(Math.abs(a!.at[0] - b!.at[0]), Math.abs(a!.at[1] - b!.at[1])) < STILL
      ? null
      : make(edit, a!.place, b!.place);

const spline = (form: "through" | "control", label: string): DrawTool => ({
  label,
  clicks: ["where it begins", "the next place; click the last one again to finish, or the first to close it"],
  many: { least: 2, closes: true },
  draw: (edit, stops, _settings, closed = false) =>
    stops.length < 2 || apart(stops[0]!, stops[1]!) < STILL ? null : [edit.spline(places(stops), form, closed)],
});

/** Every way to draw something, by family. */
export const DRAW_FAMILIES = {
  lines: {
    label: "Lines",
    ways: {
      line: {
        label: "Straight",
        clicks: ["where it begins", "where it goes"],
        chain: true,
        draw: line,
        typed: {
          after: 1,
          fields: ["length", "angle"],
          draw(edit, [from], { length, angle }) {
            const id = edit.line(from!.place, towards(from!, length, angle));
            holdAngle(edit, id, angle);
            edit.size("distance", [id], length);
            return [id];
          },
        },
      },
      onwards: {
        label: "Round, tangent",
        clicks: ["the end of a line or arc", "where it goes"],
        chain: true,
        draw: (edit, [from, to]) =>
          typeof from!.place === "string" && apart(from!, to!) > STILL
            ? list(arcOnwards(edit, from!.place, to!.place))
            : null,
      },
    },
  },
  rectangle: {
    label: "Rectangle",
    ways: {
      rectangle: {
        label: "From a corner",
        clicks: ["a corner", "the corner across"],
        draw: box(rectangle),
        typed: sized(rectangle, 1),
      },
      centred: {
        label: "From its centre",
        clicks: ["its centre", "a corner"],
        draw: box(centredRectangle),
        typed: sized(centredRectangle, 0.5),
      },
    },
  },
  circle: {
    label: "Circle",
    ways: {
      circle: {
        label: "From its centre",
        clicks: ["its centre", "a place on it"],
        draw: (edit, [centre, rim]) =>
          apart(centre!, rim!) < STILL ? null : [edit.circle(centre!.place, apart(centre!, rim!))],
        typed: {
          after: 1,
          fields: ["diameter"],
          draw(edit, [centre], { diameter }) {
            const id = edit.circle(centre!.place, diameter / 2);
            edit.size("diameter", [id], diameter);
            return [id];
          },
        },
      },
      circle3: {
        label: "Through three places",
        clicks: ["a place on it", "another", "a third"],
        draw: (edit, stops) => list(circleThrough(edit, places(stops) as [Place, Place, Place])),
      },
    },
  },
  arc: {
    label: "Arc",
    ways: {
      arc: {
        label: "Round a centre",
        clicks: ["its centre", "where it begins", "how far it goes"],
        draw: (edit, [centre, from, to]) => list(arcAround(edit, centre!.place, from!.place, to!.place)),
        typed: {
          after: 1,
          fields: ["radius", "angle", "turn"],
          draw(edit, [centre], { radius, angle, turn }) {
            const [from, to] = [towards(centre!, radius, angle), towards(centre!, radius, angle + turn)];
            const id = turn >= 0 ? edit.arc(centre!.place, from, to) : edit.arc(centre!.place, to, from);
            edit.size("radius", [id], radius);
            return [id];
          },
        },
      },
      arc3: {
        label: "Through three places",
        clicks: ["where it begins", "where it ends", "a place between"],
        draw: (edit, [from, to, through]) => list(arcThrough(edit, from!.place, to!.place, through!.place)),
      },
    },
  },
  slot: {
    label: "Slot",
    ways: {
      slot: {
        label: "Slot",
        clicks: ["the centre of one end", "the centre of the other", "how wide"],
        draw: (edit, [a, b, side]) => slot(edit, a!.place, b!.place, awayFrom(a!, b!, side!)),
        typed: {
          after: 1,
          fields: ["length", "angle", "width"],
          draw(edit, [from], { length, angle, width }) {
            const parts = slot(edit, from!.place, towards(from!, length, angle), width / 2);
            if (!parts) return null;
            holdAngle(edit, parts[0]!, angle);
            edit.size("distance", [parts[0]!], length);
            edit.size("radius", [parts[1]!], width / 2);
            return parts;
          },
        },
      },
    },
  },
  polygon: {
    label: "Polygon",
    ways: {
      polygon: {
        label: "Polygon",
        clicks: ["its centre", "a corner"],
        settings: ["sides"],
        draw: (edit, [centre, corner], { sides }) => polygon(edit, centre!.place, corner!.place, sides),
        typed: {
          after: 1,
          fields: ["diameter", "angle"],
          draw(edit, [centre], { diameter, angle }, { sides }) {
            const made = polygon(edit, centre!.place, towards(centre!, diameter / 2, angle), sides);
            const circle = edit.entities.findLast(({ type }) => type === "circle");
            if (made && circle) edit.size("diameter", [circle.id], diameter);
            return made;
          },
        },
      },
    },
  },
  ellipse: {
    label: "Ellipse",
    ways: {
      ellipse: {
        label: "Ellipse",
        clicks: ["its centre", "the end of one axis", "how wide"],
        draw: (edit, [centre, end, side]) => list(ellipseAbout(edit, centre!.place, end!.place, side!.place)),
      },
    },
  },
  spline: {
    label: "Spline",
    ways: { through: spline("through", "Through its places"), control: spline("control", "By control points") },
  },
  point: {
    label: "Point",
    ways: {
      point: {
        label: "Point",
        clicks: ["where it is"],
        draw: (edit, [at]) => (typeof at!.place === "string" ? null : [edit.point(at!.place)]),
      },
    },
  },
  text: {
    label: "Lettering",
    ways: {
      text: {
        label: "Lettering",
        clicks: ["where it begins", "the way it runs"],
        settings: ["text", "height"],
        draw(edit, [from, to], { text, height }) {
          if (apart(from!, to!) < STILL || text.trim() === "") return null;
          return [edit.text(from!.place, to!.place, text, height)];
        },
        typed: {
          after: 1,
          fields: ["angle"],
          draw(edit, [from], { angle }, { text, height }) {
            if (text.trim() === "") return null;
            const id = edit.text(from!.place, towards(from!, textWidth(text, height), angle), text, height);
            return [id];
          },
        },
      },
    },
  },
} as const satisfies Record<string, { label: string; ways: Record<string, DrawTool> }>;

function awayFrom(a: Stop, b: Stop, { at }: Stop): number {
  const [dx, dy] = [b.at[0] - a.at[0], b.at[1] - a.at[1]];
  return Math.abs(dx * (at[1] - a.at[1]) - dy * (at[0] - a.at[0])) / (Math.hypot(dx, dy) || 1);
}

export type DrawFamily = keyof typeof DRAW_FAMILIES;

/** A tool by its way of drawing. */
export const DRAW_TOOLS: Record<string, DrawTool> = Object.assign(
  {},
  ...Object.values(DRAW_FAMILIES).map(({ ways }) => ways),
);

export const familyOf = (tool: string): DrawFamily | null =>
  (Object.keys(DRAW_FAMILIES) as DrawFamily[]).find((family) => tool in DRAW_FAMILIES[family].ways) ?? null;
