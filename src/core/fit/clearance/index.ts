export { type Clearance, type ClearanceFault, type Corners, clearanceCopy } from "./clearance";
