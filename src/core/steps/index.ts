/** What kinds of step there are, and what a document says of them. Loads no geometry: what steps do is in `evaluations`. */
export * from "./declare";
export * from "./registry";
export * from "./values";
