export { readDxf } from "./read";
export { writeDxf } from "./write";
