import { fail } from "../../errors";
import type { Body } from "../../items";
import { allFaceFacts } from "../../kernel";
import type { FaceRef } from "../../references";
import { SAME_PLACE } from "../../tolerance";
import type { StepContext } from "../evaluation";

/** Picked faces, singly or by a rule, that have one value, mm, and the field that they are picked in. */
export interface FaceSet {
  refs: readonly FaceRef[];
  value: number;
  field: string;
}

type Values = Map<Body, Map<number, number>>;

/**
 * What each picked face has, by body and place. One that is picked itself has what it is picked for, whatever rules bring it along.
 * @throws SeamError where it is picked for two values, or two rules bring it along for two
 */
export function valuesOfFaces(sets: readonly FaceSet[], context: StepContext): Values {
  const values: Values = new Map();
  const singly = new Set<string>();
  for (const byRule of [false, true])
    for (const { refs, value, field } of sets)
      for (const ref of refs) {
        if ((ref.with !== undefined) !== byRule) continue;
        const { body, faces } = context.faces(ref);
        const own = values.get(body) ?? new Map<number, number>();
        values.set(body, own);
        for (const place of faces) {
          const key = `${body.id} ${place}`;
          if (byRule && singly.has(key)) continue;
          if (!byRule) singly.add(key);
          const before = own.get(place);
          if (before !== undefined && Math.abs(before - value) > SAME_PLACE)
            refuse(body, place, field, byRule, context);
          own.set(place, value);
        }
      }
  return values;
}

function refuse(body: Body, place: number, field: string, byRule: boolean, { step }: StepContext): never {
  fail(
    "picked-twice",
    byRule
      ? "Two rules bring a face along for different values. Pick it by itself for the one that it is to have."
      : "A face is picked for two values. Take it out of one of them.",
    {
      step,
      field,
      bodies: [body.id],
      faces: [{ body: body.id, face: body.faces[place]! }],
      at: [...allFaceFacts(body.shape)[place]!.centre] as [number, number, number],
    },
  );
}
