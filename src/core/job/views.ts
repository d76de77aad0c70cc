import * as z from "zod";
import { nameField } from "../schema/fields";
import type { Part } from "./document";

const place = z.tuple([z.number(), z.number(), z.number()]);

/** A way to look at a part that a person gave a name: from where, at what, how much of it, and how it is cut open. */
export const savedViewSchema = z.strictObject({
  name: nameField,
  from: place
    .refine((way) => Math.hypot(...way) > 0, "has no direction: one of the numbers has to be other than 0")
    .describe("The direction in which the eye lies"),
  at: place.describe("What stands in the middle, mm"),
  across: z.number().positive().max(1e7).describe("How much is seen across the smaller side of the view, mm"),
  section: z
    .strictObject({
      axis: z.enum(["x", "y", "z"]).describe("What the plane of the section is square to"),
      at: z.number().min(0).max(1).describe("Where along the part, from one end (0) to the other (1)"),
      flip: z.boolean().describe("Whether the half towards lower numbers is taken away"),
    })
    .nullable()
    .default(null),
});
export type SavedView = z.infer<typeof savedViewSchema>;

/** The edits of the views that a part keeps. */
export const viewEdits = {
  /** Keeps a view; one that was called so before is replaced. */
  keepView(part: Part, view: SavedView): void {
    const at = part.views.findIndex(({ name }) => name === view.name);
    if (at < 0) part.views.push(view);
    else part.views[at] = view;
  },
  removeView(part: Part, name: string): void {
    part.views = part.views.filter((view) => view.name !== name);
  },
  /** Calls a view otherwise. A name that another has, and none, change nothing. */
  renameView(part: Part, name: string, now: string): void {
    const wanted = now.trim();
    const view = part.views.find((one) => one.name === name);
    if (view && wanted && !part.views.some((one) => one.name === wanted)) view.name = wanted;
  },
};
