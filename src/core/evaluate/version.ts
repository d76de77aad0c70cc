/** Changes when the engine that all steps share makes something else; what one kind of step makes has a `version` of its own. */
export const ENGINE_VERSION = "22";
