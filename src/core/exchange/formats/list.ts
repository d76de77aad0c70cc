import { hasAny, type ItemKindId } from "../../items/kinds";
import { threeMf } from "./3mf/declare";
import type { OutFormat } from "./declare";
import { dxf } from "./dxf/declare";
import { obj } from "./obj/declare";
import { step } from "./step/declare";
import { stl } from "./stl/declare";

/** The formats that items are written in. A new one is a folder here, a line in this list and one in `writers`. */
export const OUT_FORMATS: readonly OutFormat[] = [step, threeMf, stl, obj, dxf];

export const outFormat = (id: string): OutFormat | undefined => OUT_FORMATS.find((format) => format.id === id);

/** Whether a format takes items of a kind. */
export const takes = (format: OutFormat, kind: ItemKindId): boolean => hasAny({ kind }, format.takes);
