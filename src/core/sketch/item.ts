import { curvesOf } from "./curves";
import type { Entity } from "./entities";
import { findProfile, type Profile } from "./profile/regions";

const known = new WeakMap<readonly Entity[], Profile>();

/** What a solved drawing encloses, worked out once. */
export function profileOf(entities: readonly Entity[]): Profile {
  let profile = known.get(entities);
  if (!profile) {
    profile = findProfile(curvesOf(entities));
    known.set(entities, profile);
  }
  return profile;
}
