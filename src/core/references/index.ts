/** How a document says which item, face, edge, corner or file it means. What they come to is found by `naming` and `build`. */
export * from "./item";
export * from "./marks";
export * from "./picked";
export * from "./write";
