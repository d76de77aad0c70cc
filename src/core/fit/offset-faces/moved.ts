/** A face of a body, by place, and how far it is moved, mm: outwards where above 0. */
export interface MovedFace {
  place: number;
  by: number;
}

/** Why faces could not be moved, and which are to blame, by place. */
export interface OffsetFault {
  /**
   * `ends`: a surface has no more of itself to run on along, or a radius is used up. `open`: what runs on never meets the moved face.
   * `nothing`: no material is left. `apart`: what is left is several bodies. `undivided`: the surfaces could not be divided by one another.
   */
  why: "ends" | "open" | "nothing" | "apart" | "undivided";
  places: number[];
}
