/** The one engine: stock and cutters divide space into pieces, each piece gets a fate, kept pieces become bodies. */
export * from "./diagnosis";
export * from "./division";
export * from "./fates";
export * from "./join";
export * from "./piece";
export * from "./presets";
