import { has } from "@/core/items/kinds";
import { type ItemView, isBodyView } from "@/engine/contract";
import { faceRef } from "../state/refs";
import { TOOLS } from "./tools";

/** A tool that can begin with what is picked, filled in with it. */
export interface PickedTool {
  /** The tool's id, for its mark. */
  tool: string;
  label: string;
  type: string;
  values: Record<string, unknown>;
}

const tool = (id: string, values: Record<string, unknown>, label?: string): PickedTool => {
  const known = TOOLS.find((one) => one.id === id)!;
  return { tool: id, label: label ?? known.label, type: known.type, values: { ...known.values, ...values } };
};

/** What can be begun with an item, or with one of its faces; by what it can be asked for. */
export function pickedTools(item: ItemView, face: number | null): PickedTool[] {
  if (face !== null && isBodyView(item) && item.faces[face]) return withFace(item, face);
  if (has(item, "closed")) return withSolid(item.id);
  if (has(item, "body")) return withSheet(item.id);
  if (has(item, "plane"))
    return [
      tool("sketch", { on: "workplane", plane: [item.id] }, "Draw on it"),
      tool("seam-split", { cutters: [item.id] }, "Cut by it"),
      tool("workplane", { base: "workplane", plane: [item.id] }, "Plane beside it"),
      tool("mirror", { about: "workplane", plane: [item.id] }, "Mirror in it"),
    ];
  if (has(item, "drawn"))
    return [
      tool("extrude", { sketch: [item.id] }),
      tool("revolve", { sketch: [item.id] }),
      tool("seam-split", { cutters: [item.id] }, "Cut by it"),
    ];
  if (has(item, "path")) return [tool("pipe", { path: [item.id] }, "Pipe along it")];
  return [];
}

function withFace(item: Extract<ItemView, { faces: unknown }>, place: number): PickedTool[] {
  const face = item.faces[place]!;
  const ref = [faceRef(item, face)];
  const flat = face.kind === "plane";
  return [
    ...(flat
      ? [
          tool("sketch", { on: "face", face: ref }, "Draw on it"),
          tool("workplane", { base: "face", face: ref }, "Plane on it"),
          tool("extrude", { of: "faces", faces: ref }, "Pull it out"),
        ]
      : []),
    ...(face.kind === "cylinder" ? [tool("workplane", { base: "tangent", face: ref }, "Plane touching it")] : []),
    tool("offset-sheet", { faces: ref }, "Sheet off it"),
    tool("seam-split", { cutterFaces: ref }, "Cut by it"),
    ...(has(item, "closed")
      ? [
          tool("offset-faces", { faces: ref }, "Move it out or in"),
          tool("shell", { body: [item.id], open: ref }, "Hollow, open here"),
        ]
      : []),
  ];
}

const withSolid = (id: string): PickedTool[] => [
  tool("seam-split", { stock: [id] }),
  tool("seam-trim", { stock: [id] }),
  tool("seam-subtract", { stock: [id] }, "Subtract from it"),
  tool("shell", { body: [id] }, "Hollow"),
  tool("move", { bodies: [id] }),
  tool("mirror", { bodies: [id] }),
  tool("pattern", { bodies: [id] }),
];

const withSheet = (id: string): PickedTool[] => [
  tool("seam-split", { cutters: [id] }, "Cut by it"),
  tool("seam-trim", { stock: [id] }, "Trim it"),
  tool("move", { bodies: [id] }),
  tool("mirror", { bodies: [id] }),
];
