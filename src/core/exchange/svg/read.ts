import { XMLParser, XMLValidator } from "fast-xml-parser";
import svgpath from "svgpath";
import { fail } from "../../errors";
import type { Vec2 } from "../../sketch";
import {
  type Affine,
  bezier,
  type DrawingFile,
  type FileCurve,
  followedBy,
  line,
  mapFileCurve,
  refuseMany,
} from "../drawing/curves";
import { ellipticalArc } from "./arc";
import { transformOf } from "./transform";

/** Millimetres of a CSS length unit (CSS Values and Units Level 3, 6.2: an inch is 96 px). */
const MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  "": 25.4 / 96,
};

interface Node {
  name: string;
  attributes: Record<string, string>;
  children: Node[];
}

/** Kinds that draw nothing of their own, and are not worth a note. */
const SILENT = new Set(["defs", "title", "desc", "metadata", "style", "namedview", "symbol", "clipPath", "marker"]);

/**
 * Reads the curves of an SVG file, as millimetres with Y upwards: the file's own lower left corner is the origin.
 * @throws SeamError when it is no SVG, is broken, or holds more than a sketch can take.
 */
export function readSvg(text: string): DrawingFile {
  if (!/<svg[\s>]/.test(text))
    fail("svg-unreadable", "This is no SVG file: it has no svg element. Save the drawing as SVG again.");
  if (XMLValidator.validate(text) !== true)
    fail("svg-broken", "This SVG file is broken or cut short, so nothing was brought in. Save the drawing again.");
  const root = find(parse(text), "svg") ?? fail("svg-unreadable", "This is no SVG file: it has no svg element.");
  const { map, unit } = pageOf(root);
  const notes: string[] = [];
  const leftOut = new Map<string, number>();
  const curves = drawn(root.children, map, leftOut);
  refuseMany(curves.length);
  for (const [name, count] of leftOut) notes.push(`Left out: ${count} of the kind ${name}.`);
  if (unit === "px") notes.push("The file counts in pixels; 96 of them were taken as an inch.");
  if (curves.length === 0) fail("svg-empty", "This SVG file holds no lines or curves that can be drawn.");
  return { curves, unit, notes };
}

function parse(text: string): Node[] {
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: "",
    removeNSPrefix: true,
  });
  const nodes = (list: Record<string, unknown>[]): Node[] =>
    list.flatMap((entry) => {
      const name = Object.keys(entry).find((key) => key !== ":@" && key !== "#text");
      if (!name) return [];
      const children = entry[name];
      return [
        {
          name,
          attributes: (entry[":@"] ?? {}) as Record<string, string>,
          children: Array.isArray(children) ? nodes(children as Record<string, unknown>[]) : [],
        },
      ];
    });
  return nodes(parser.parse(text) as Record<string, unknown>[]);
}

const find = (nodes: readonly Node[], name: string): Node | undefined => nodes.find((node) => node.name === name);

/** How the file's own coordinates lie in millimetres. */
function pageOf({ attributes }: Node): { map: Affine; unit: string } {
  const size = (text: string | undefined) => {
    const found = text?.trim().match(/^([\d.eE+-]+)\s*(mm|cm|in|pt|pc|px|)$/);
    return found ? { value: Number(found[1]), unit: found[2]! } : null;
  };
  const [width, height] = [size(attributes.width), size(attributes.height)];
  const box = attributes.viewBox
    ?.trim()
    .split(/[\s,]+/)
    .map(Number);
  const [x, y, w, h] =
    box?.length === 4 && box.every(Number.isFinite) && box[2]! > 0
      ? box
      : [0, 0, width?.value ?? 0, height?.value ?? 0];
  const unit = width?.unit || "px";
  const scale = width && w! > 0 ? (width.value * MM[unit]!) / w! : MM.px!;
  return { map: [scale, 0, 0, -scale, -x! * scale, (y! + h!) * scale], unit };
}

function drawn(nodes: readonly Node[], map: Affine, leftOut: Map<string, number>): FileCurve[] {
  return nodes.flatMap((node) => {
    const { name, attributes } = node;
    if (SILENT.has(name) || /display\s*:\s*none/.test(attributes.style ?? "") || attributes.display === "none")
      return [];
    const own = attributes.transform ? followedBy(transformOf(attributes.transform), map) : map;
    if (name === "g" || name === "svg" || name === "a") return drawn(node.children, own, leftOut);
    const curves = curvesOf(node);
    if (curves === null) {
      leftOut.set(name, (leftOut.get(name) ?? 0) + 1);
      return [];
    }
    return curves.flatMap((curve) => mapFileCurve(own, curve));
  });
}

/** The curves of one element in its own coordinates; null for a kind that is not read. */
function curvesOf({ name, attributes }: Node): FileCurve[] | null {
  const number = (key: string, other = 0): number => {
    const value = Number.parseFloat(attributes[key] ?? "");
    return Number.isFinite(value) ? value : other;
  };
  switch (name) {
    case "line":
      return line([number("x1"), number("y1")], [number("x2"), number("y2")]);
    case "circle":
    case "ellipse": {
      const [a, b] = name === "circle" ? [number("r"), number("r")] : [number("rx"), number("ry")];
      return a > 0 && b > 0 ? [whole([number("cx"), number("cy")], a, b)] : [];
    }
    case "polyline":
    case "polygon": {
      const values = (attributes.points ?? "")
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      const points = Array.from({ length: values.length >> 1 }, (_, i): Vec2 => [values[2 * i]!, values[2 * i + 1]!]);
      return chain(points, name === "polygon");
    }
    case "rect": {
      const [x, y, w, h] = [number("x"), number("y"), number("width"), number("height")];
      const rx = Math.min(number("rx", number("ry")), w / 2);
      const ry = Math.min(number("ry", number("rx")), h / 2);
      if (!(w > 0 && h > 0)) return [];
      if (!(rx > 0 && ry > 0))
        return chain(
          [
            [x, y],
            [x + w, y],
            [x + w, y + h],
            [x, y + h],
          ],
          true,
        );
      return path(
        `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`,
      );
    }
    case "path":
      return path(attributes.d ?? "");
    default:
      return null;
  }
}

const whole = (centre: Vec2, major: number, minor: number): FileCurve => ({
  exact: true,
  curve: { kind: "ellipse", centre, major, minor, turn: 0, start: 0, sweep: 2 * Math.PI },
});

const chain = (points: readonly Vec2[], closed: boolean): FileCurve[] =>
  points
    .slice(closed ? 0 : 1)
    .flatMap((to, i) => line(closed ? points[(i + points.length - 1) % points.length]! : points[i]!, to));

/** The curves of path data (SVG 1.1, 8.3), made absolute and spelled out by the library. */
function path(d: string): FileCurve[] {
  const curves: FileCurve[] = [];
  let start: Vec2 = [0, 0];
  const words = svgpath(d).abs().unshort();
  if ((words as unknown as { err?: string }).err)
    fail("svg-broken", "A path of this SVG file cannot be read, so nothing was brought in. Save the drawing again.");
  words.iterate((segment, _index, x, y) => {
    const [letter, ...v] = segment as [string, ...number[]];
    const at: Vec2 = [x, y];
    const end: Vec2 = [v[v.length - 2]!, v[v.length - 1]!];
    if (letter === "M") start = end;
    else if (letter === "L") curves.push(...line(at, end));
    else if (letter === "H") curves.push(...line(at, [v[0]!, y]));
    else if (letter === "V") curves.push(...line(at, [x, v[0]!]));
    else if (letter === "Q") curves.push(bezier([at, [v[0]!, v[1]!], end]));
    else if (letter === "C") curves.push(bezier([at, [v[0]!, v[1]!], [v[2]!, v[3]!], end]));
    else if (letter === "A") curves.push(...ellipticalArc(at, v as never, end));
    else if (letter === "Z" || letter === "z") curves.push(...line(at, start));
  });
  return curves;
}
