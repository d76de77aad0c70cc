import type { OperationName } from "../contract";
import { check } from "./check";
import { compare } from "./compare";
import { contacts } from "./contacts";
import { course } from "./course";
import { evaluate } from "./evaluate";
import { fits } from "./fits";
import { inspect } from "./inspect";
import { links } from "./links";
import { list } from "./list";
import { measure } from "./measure";
import type { Operation } from "./operation";
import { release } from "./release";
import { rough } from "./rough";

/** All that an engine can do: one file each. What it is asked and what it gives stands in the contract. */
export const OPERATIONS: { [N in OperationName]: Operation<N> } = {
  evaluate,
  rough,
  contacts,
  release,
  measure,
  course,
  check,
  fits,
  links,
  compare,
  list,
  inspect,
};
