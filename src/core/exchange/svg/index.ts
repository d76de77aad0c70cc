export { readSvg } from "./read";
export { writeSvg } from "./write";
