import { threeMf } from "./3mf/declare";
import type { BodyFormat } from "./declare";
import { obj } from "./obj/declare";
import { step } from "./step/declare";
import { stl } from "./stl/declare";

/** The formats that bodies are written in. A new one is a folder here, a line in this list and one in `writers`. */
export const BODY_FORMATS: readonly BodyFormat[] = [step, threeMf, stl, obj];

export const bodyFormat = (id: string): BodyFormat | undefined => BODY_FORMATS.find((format) => format.id === id);

/** Whether a format takes a body. */
export const takes = (format: BodyFormat, kind: "solid" | "sheet"): boolean =>
  format.takes === "any" || kind === "solid";
