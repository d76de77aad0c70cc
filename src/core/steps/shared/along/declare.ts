import * as z from "zod";
import { edgeRefSchema, itemRef } from "../../../references";
import type { Field } from "../../declare";

/** The values of a step that goes along a path. */
export const alongFields = {
  along: z.enum(["sketch", "edges"]).default("sketch").describe("What the path is"),
  path: z.array(itemRef).max(1).default([]).describe("A sketch of one path, open or closed, or a curve"),
  edges: z.array(edgeRefSchema).max(200).default([]).describe("edges: of one body, one after the other"),
  corners: z.enum(["mitred", "round"]).default("mitred").describe("Where the path has a corner"),
};

/** The fields of a form for the path. */
export const PATH_FORM: Field[] = [
  {
    key: "along",
    kind: "choice",
    label: "Along",
    options: [
      { value: "sketch", label: "A sketch or curve" },
      { value: "edges", label: "Edges" },
    ],
  },
  {
    key: "path",
    kind: "bodies",
    label: "Path",
    accepts: ["drawn", "path"],
    min: 1,
    max: 1,
    when: { key: "along", is: ["sketch"] },
  },
  {
    key: "edges",
    kind: "edges",
    label: "Edges of the path",
    accepts: "any",
    min: 1,
    when: { key: "along", is: ["edges"] },
  },
];

export const CORNERS_FIELD: Field = {
  key: "corners",
  kind: "choice",
  label: "Corners",
  options: [
    { value: "mitred", label: "Mitred" },
    { value: "round", label: "Round" },
  ],
};
