import { strToU8, zipSync } from "fflate";
import { fail } from "../../../errors";
import { type SkinFault, skinFault, type Welded, welded } from "../../../kernel";
import type { OutBody, OutWriter } from "../declare";
import { bodiesIn } from "../of-kind";
import { trianglesOf } from "../triangles";

// After the 3D Manufacturing Format core specification 1.3: https is not asked for, the names of its schemas are names only.
const CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02";
const MODEL = "http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';

/**
 * Writes closed bodies as 3MF: a package with one model in millimetres, an object for each body, with its name and, where it has
 * one, its colour. The triangles of each close and look outwards (section 4.1: manifold edges, consistent orientation).
 * @throws SeamError `not-printable` where triangles of a body do not close, or touch each other along an edge; `not-closed`.
 */
export const write3mf: OutWriter = (items, { title, tolerance }) => {
  const bodies = bodiesIn(items);
  const meshes = trianglesOf(bodies, tolerance).map(welded);
  meshes.forEach((mesh, i) => {
    const fault = skinFault(mesh);
    if (fault) fail("not-printable", FAULTS[fault](bodies[i]!.name));
  });
  return zipSync({
    "[Content_Types].xml": strToU8(
      `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`,
    ),
    "_rels/.rels": strToU8(
      `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="${MODEL}"/></Relationships>`,
    ),
    "3D/3dmodel.model": strToU8(modelOf(bodies, meshes, title)),
  });
};

const FAULTS: Record<SkinFault, (name: string) => string> = {
  open: (name) =>
    `The triangles of ${name} do not close at this tolerance, and 3MF asks for that. Give a smaller tolerance.`,
  touching: (name) =>
    `${name} touches itself along an edge, which 3MF does not allow and no machine can make. Part it there, or join it with more.`,
};

/** The ids of resources begin at 1: the list of colours, then the bodies. */
const COLOURS = 1;

function modelOf(bodies: readonly OutBody[], meshes: readonly Welded[], title: string): string {
  const colours = [...new Set(bodies.flatMap(({ colour }) => (colour ? [colour] : [])))];
  const bases = colours.map((colour) => `<base name="${colour}" displaycolor="${colour.toUpperCase()}FF"/>`);
  const objects = bodies.map(({ name, colour }, i) => {
    const look = colour ? ` pid="${COLOURS}" pindex="${colours.indexOf(colour)}"` : "";
    return `<object id="${i + 2}" type="model" name="${escaped(name)}"${look}>${meshOf(meshes[i]!)}</object>`;
  });
  const items = bodies.map((_, i) => `<item objectid="${i + 2}"/>`);
  return [
    `${HEAD}<model unit="millimeter" xml:lang="en-US" xmlns="${CORE}">`,
    `<metadata name="Title">${escaped(title)}</metadata>`,
    '<metadata name="Application">Bold Seam</metadata>',
    "<resources>",
    ...(bases.length > 0 ? [`<basematerials id="${COLOURS}">${bases.join("")}</basematerials>`] : []),
    ...objects,
    "</resources>",
    `<build>${items.join("")}</build>`,
    "</model>",
  ].join("\n");
}

function meshOf({ corners, triangles }: Welded): string {
  const lines: string[] = ["<mesh><vertices>"];
  for (let i = 0; i < corners.length; i += 3)
    lines.push(`<vertex x="${digits(corners[i]!)}" y="${digits(corners[i + 1]!)}" z="${digits(corners[i + 2]!)}"/>`);
  lines.push("</vertices><triangles>");
  for (let t = 0; t < triangles.length; t += 3)
    lines.push(`<triangle v1="${triangles[t]}" v2="${triangles[t + 1]}" v3="${triangles[t + 2]}"/>`);
  lines.push("</triangles></mesh>");
  return lines.join("\n");
}

/** Nine digits tell any two numbers of this precision apart. */
const digits = (value: number): string => String(Number(value.toPrecision(9)));

/** Text for XML. Signs that XML has no place for, such as those that move a printer's carriage, become blanks. */
const escaped = (text: string): string =>
  text
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is taken out.
    .replace(/[\u0000-\u001f\ufffe\uffff]/g, " ")
    .replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);
