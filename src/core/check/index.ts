export * from "./body-report";
