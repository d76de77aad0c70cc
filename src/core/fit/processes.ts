/** A way of making, and the gap per side that parts made so are given to go together. */
export interface Process {
  id: string;
  label: string;
  /** The job's parameter that holds its gap: what a workshop sets for itself, it sets once. */
  parameter: string;
  unit: "mm" | "in";
  gap: number;
}

/**
 * Gaps per side as common practice has them: without a published source, and a place to begin at. Each workshop has its own.
 * Ten thousandths of an inch per side is what is commonly said of printed parts that are to go together by hand.
 */
export const PROCESSES: readonly Process[] = [
  { id: "printed", label: "Printed", parameter: "gap_printed", unit: "in", gap: 0.01 },
  { id: "milled", label: "Milled", parameter: "gap_milled", unit: "mm", gap: 0.1 },
  { id: "laser", label: "Laser-cut", parameter: "gap_laser_cut", unit: "mm", gap: 0.15 },
  { id: "cast", label: "Cast", parameter: "gap_cast", unit: "mm", gap: 0.8 },
  { id: "press", label: "Press fit", parameter: "gap_press_fit", unit: "mm", gap: -0.02 },
];
