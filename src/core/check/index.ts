export * from "./between";
export * from "./body-report";
