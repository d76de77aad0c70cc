import { curvesOf } from "./curves";
import type { Entity } from "./entities";
import { findProfile, type Profile } from "./profile/regions";

const known = new WeakMap<readonly Entity[], Profile>();

/** A profile's stretches as the kernel draws them out: the exact shape of each curve, and between which places. */
export function stretchesOf({ graph }: Profile) {
  return graph.stretches.map(({ curve, ...rest }) => ({ ...rest, shape: curve.shape }));
}

/** What a solved drawing encloses, worked out once. */
export function profileOf(entities: readonly Entity[]): Profile {
  let profile = known.get(entities);
  if (!profile) {
    profile = findProfile(curvesOf(entities));
    known.set(entities, profile);
  }
  return profile;
}
