import { type Measures, measure } from "../check";
import {
  allEdgeFacts,
  allFaceFacts,
  type EdgeFacts,
  type FaceFacts,
  freeShape,
  mirrored,
  ownHandle,
  placed,
  type Shape,
  shapeFromText,
  shapeToText,
  type Vec3,
  verticesOf,
} from "../kernel";
import { topologyNames } from "../naming";
import type { Extras, Handling, Known, Told } from "./handling";
import { type ViewMesh, viewMesh } from "./view-mesh";

/** A solid or a sheet: what is made of faces. */
export interface Body extends Known {
  kind: "solid" | "sheet";
  shape: Shape;
  /** One name per face, in the kernel's order of faces. */
  faces: string[];
}

export interface FaceView extends FaceFacts {
  name: string;
}

/** An edge, by the place that its line has in the mesh; null where an edge has no length. */
export interface EdgeView extends EdgeFacts {
  name: string;
}

export interface CornerView {
  name: string;
  at: Vec3;
}

export interface BodyView extends Told {
  kind: "solid" | "sheet";
  /** Identifies the mesh: equal ids, equal meshes. */
  meshId: string;
  /** Absent when the asker has it. */
  mesh?: ViewMesh;
  measures: Measures;
  faces: FaceView[];
  edges: (EdgeView | null)[];
  corners: CornerView[];
}

type StoredBody = Omit<Body, "shape"> & { shape: string } & Extras;

export const bodyHandling: Handling<Body, BodyView> = {
  // A guess for the exact shape, from its faces.
  bytes: ({ faces }) => 4000 * faces.length,
  free: ({ shape }) => freeShape(shape),
  store: (body, extras): StoredBody => ({ ...body, shape: shapeToText(body.shape), ...extras }),
  restore(stored) {
    const { measures, mesh, shape, ...rest } = stored as StoredBody;
    const extras = { ...(measures ? { measures } : {}), ...(mesh ? { mesh } : {}) };
    return { item: { ...rest, shape: shapeFromText(shape) }, extras };
  },
  placed: (body, placement) => ({ ...body, shape: placed(body.shape, placement) }),
  mirrored: (body, normal) => ({ ...body, shape: mirrored(body.shape, [0, 0, 0], normal) }),
  again: (body) => ({ ...body, shape: ownHandle(body.shape) }),
  copied: (body, step, mark) => ({ ...body, faces: body.faces.map((name) => `${step}:${mark}:${name}`) }),
  view(body, { told, key, extras, known, meshes }) {
    extras.measures ??= measure(body.shape, body.kind);
    const meshId = `${key}/${body.id}`;
    if (!known.has(meshId)) extras.mesh ??= viewMesh(meshes, body.shape, body.faces);
    return {
      ...told,
      kind: body.kind,
      meshId,
      measures: extras.measures,
      ...partsOf(body),
      ...(known.has(meshId) ? {} : { mesh: extras.mesh! }),
    };
  },
};

type Parts = Pick<BodyView, "faces" | "edges" | "corners">;
const parts = new WeakMap<Shape, { of: readonly string[]; parts: Parts }>();

/** The faces, edges and corners of a body with their names: what can be picked. */
function partsOf({ shape, faces }: Body): Parts {
  const kept = parts.get(shape);
  if (kept?.of === faces) return kept.parts;
  const names = topologyNames(shape, faces);
  const corners = verticesOf(shape);
  const made = {
    faces: allFaceFacts(shape).map((facts, f) => ({ ...facts, name: faces[f]! })),
    edges: allEdgeFacts(shape).map((facts, e) => (facts ? { ...facts, name: names.edges[e]! } : null)),
    corners: names.vertices.map((name, v) => ({ name, at: corners[v]! })),
  };
  parts.set(shape, { of: faces, parts: made });
  return made;
}
