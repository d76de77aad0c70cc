export * from "./csv";
export * from "./inspect";
export * from "./step";
export * from "./stl";
