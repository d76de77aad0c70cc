export { type Onto, type ReplaceFault, replaceFace } from "./replace-face";
