// What counts as nothing, named once. The geometry library itself holds places that are nearer than 1e-7 mm for one.

/** mm: places nearer to each other, and lengths that are shorter, are one place. */
export const SAME_PLACE = 1e-6;

/** Sines and shares of one: directions that differ by less are one direction. About 2e-4 arc seconds. */
export const SAME_WAY = 1e-9;

/** Sines: what meets a plane at less runs along it, and meets it nowhere that could be worked with. */
export const ALONG = 1e-6;

/** Of one: two ways to work out a size of a body agree where they differ by less. */
export const SAME_SIZE = 1e-6;

/** mm: finer than anything that is made; where the library's own answers are rough, they agree to within this. */
export const UNMADE = 1e-3;

/** mm: how far the parts of a body may be apart before it is said. The library gives every rounding and chamfer 1e-4, needed or not. */
export const EXACT = 1.05e-4;
