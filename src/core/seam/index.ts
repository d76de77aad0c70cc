/** The one engine: stock and cutters divide space into pieces, each piece gets a fate, kept pieces become bodies. */
export * from "./diagnosis";
export * from "./division";
export * from "./fates";
export * from "./find";
export type { Front } from "./fronts";
export { Ids, unmarked } from "./ids";
export * from "./join";
export * from "./mark";
export * from "./older-keys";
export * from "./piece";
export * from "./presets";
export * from "./room";
export * from "./rules";
export * from "./seen";
