/**
 * A drawn mark for each tool, 20 × 20, in the way in which drawings of the trade speak: edges in full lines, what goes or was there
 * in broken ones, axes and cutting planes in chain lines, arrows where something is pulled or turned.
 */
interface Drawn {
  line: string;
  /** Broken: what is taken away, or was there before. */
  broken?: string;
  /** Chain lines: axes and planes. */
  chain?: string;
}

const round = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;

const DRAWN: Record<string, Drawn> = {
  import: { line: "M3.5 11.5v5h13v-5M10 2.5v9M7.3 9 10 11.7 12.7 9" },
  box: {
    line: "M3.5 3.5h13v8.5h-13zM3.5 14.5v3.5M16.5 14.5v3.5M3.5 16.3h13M5.3 15.3l-1.8 1 1.8 1M14.7 15.3l1.8 1-1.8 1",
  },
  cylinder: { line: "M3.5 5.5h10v9h-10zM13.5 5.5c4 0 4 9 0 9", chain: "M1.2 10h17.6" },
  sphere: { line: round(10, 10, 6.4), chain: "M10 1.2v17.6M1.2 10h17.6" },
  cone: { line: "M3.5 15.5h13L10 3.6z", chain: "M10 1.2v17.6" },
  torus: { line: round(5.2, 10, 3.2) + round(14.8, 10, 3.2), chain: "M10 2.5v15", broken: "M5.2 6.8h9.6M5.2 13.2h9.6" },
  wedge: { line: "M3 15.5h14V5.5z" },
  workplane: { line: "M2.5 15 6.5 9h11l-4 6zM10 12V3M8.2 5 10 2.8 11.8 5" },
  sketch: { line: `M4.5 15 7.5 6l8 3.4${round(3.9, 16.4, 1.5)}${round(7.1, 4.6, 1.5)}${round(16.9, 10, 1.5)}` },
  curve: { line: `M4 14.5C6 5 12.5 16.5 15.6 6.8${round(3.5, 16, 1.5)}${round(16.3, 5.3, 1.5)}` },
  extrude: { line: "M3 17h14l-3-4.5H6zM10 14.500V3.500M8.2 5.5 10 3.3 11.8 5.5", broken: "M3 17V9M17 17V9" },
  revolve: {
    line: "M9.5 6.500h5.500v9H9.500zM3 5.500c2.5-3.5 11-3.5 14-.5M17.2 2.8 17 5l-2.2-.2",
    chain: "M6 1.500v17",
  },
  loft: { line: "M2.5 16.500h15M7 3.500h6M2.5 16.5 7 3.500M17.5 16.5 13 3.5", broken: "M4.8 10h10.4" },
  sweep: { line: "M2.5 13.500h4v4h-4zM4.5 13.500C4.5 7 8 5 13.5 5M13.5 3h4v4h-4z" },
  pipe: {
    line: "M3 17.500V9.500a6.5 6.5 0 0 1 6.5-6.500h8M7.5 17.500V10A2.5 2.5 0 0 1 10 7.500h7.500M3 17.500h4.500M17.5 3v4.5",
  },
  fillet: { line: "M3.5 2.500V9a7.5 7.5 0 0 0 7.5 7.500h6.5", broken: "M3.5 9v7.500H11" },
  chamfer: { line: "M3.5 2.500V9l7.5 7.500h6.5", broken: "M3.5 9v7.500H11" },
  draft: { line: "M3.5 16.500h13M3.5 16.5 7.5 3.500h9", broken: "M3.5 16.500v-13", chain: "" },
  shell: { line: "M3 4v12.500h14V4M6.2 4v9.300h7.600V4M3 4h3.200M13.8 4H17" },
  scale: { line: "M3 10.500h6.500V17H3zM11 9l5-5M12.5 3.800h3.700v3.7", broken: "M3 8V3h6.500M17 10v7h-5.5" },
  move: {
    line: "M10 2.500v15M2.5 10h15M8.3 4.5 10 2.500l1.7 2M8.3 15.500l1.7 2 1.7-2M4.5 8.300l-2 1.7 2 1.700M15.5 8.300l2 1.7-2 1.7",
  },
  align: { line: "M3 3.500h6.500v5H3zM3 11.500h12v5H3z", chain: "M3 1v18" },
  mirror: { line: "M8 5v10H2.500z", broken: "M12 5v10h5.500z", chain: "M10 1.500v17" },
  pattern: { line: "M2.5 8h4v4h-4z", broken: "M8 8h4v4H8zM13.5 8h4v4h-4z", chain: "M1 15.500h18" },
  remove: { line: "M7 7.500l6 5.500M13 7.5 7 13", broken: "M3 4h14v12.500H3z" },
  "bring-in": {
    line: "M11 10h6.500v6.500H11zM5.5 12v2.500h3.500M7.6 13.2 9 14.500l-1.4 1.3",
    broken: "M2.5 3.500H9V10H2.500z",
  },
  "offset-sheet": {
    line: "M2.5 7c4.5-4.5 10.5-4.5 15 0M10 12V6.500M8.4 8.2 10 6.300l1.6 1.9",
    broken: "M2.5 16c4.5-4.5 10.5-4.5 15 0",
  },
  "offset-faces": {
    line: "M3 9.500V17h14V9.500zM10 7V2.500M8.400 4.200 10 2.300l1.600 1.900",
    broken: "M3 9.500V5M17 9.500V5",
  },
  "replace-face": {
    line: "M3 7.500V17h14V7.500C13 2 7 2 3 7.500z",
    broken: "M3 10.500h14",
  },
  clearance: {
    line: "M6.500 6.500h7v7h-7z",
    broken:
      "M3.500 2h13a1.500 1.500 0 0 1 1.500 1.500v13a1.500 1.500 0 0 1-1.500 1.500h-13A1.500 1.500 0 0 1 2 16.500v-13A1.500 1.500 0 0 1 3.500 2z",
  },
  motion: {
    line: "M2.500 11h5.500v5.500H2.500zM12 6.500l4.500-2.500 1 5",
    broken: "M3 8.500C4 5 9 3 16 4M8 16.500c3-1 5-3 6-6",
  },
  "seam-split": { line: "M2.5 6h5.700v8.500H2.500zM11.8 6h5.700v8.500h-5.700z", chain: "M10 1.500v17" },
  "seam-choose": { line: `M2.5 8.5H12v8H2.5zM8 3.5h9.5v8H8z${round(10, 10, 0.7)}` },
  "seam-seat": { line: "M2.5 9.5h4V13h7V9.5h4v7.5h-15zM6.500 2.500h7V6h-7z", chain: "M10 1v8" },
  "seam-skin": { line: "M8 4.500a5.500 5.500 0 0 0 0 11zM12 4.500a5.500 5.500 0 0 1 0 11z", chain: "M10 1.5v17" },
  "seam-each-other": { line: "M3 4c3 2 5 4 7 6-2 2-4 4-7 6", broken: "M17 4c-3 2-5 4-7 6 2 2 4 4 7 6" },
  "seam-carve": { line: "M2.5 8h5v4h-5M17.5 8h-5v4h5", broken: "M7.5 8h5M7.5 12h5", chain: "M10 2.5v15" },
  "seam-trim": { line: "M2.5 6H10v8.500H2.500z", broken: "M10 6h7.500v8.500H10", chain: "M10 1.500v17" },
  "seam-subtract": { line: "M2.5 7h4.200a3.3 3.3 0 0 0 6.6 0h4.200v9.500h-15z", broken: "M6.7 7a3.3 3.3 0 0 1 6.6 0" },
  "seam-union": { line: "M2.5 8.500H8V3.500h9.500v8H12v5H2.500z", broken: "M8 8.500h4v3" },
  "seam-fill": {
    line: "M3.5 3.500v13h13v-13M3.5 9.500h13M8.2 6h3.600L10 9.500z",
    chain: "M1.500 9.500h2M16.500 9.500h2",
  },
  "seam-intersect": { line: "M8 8.500h4v3H8z", broken: "M2.5 8.500H8v3h4v5H2.500zM8 8.500v-5h9.500v8H12v-3z" },
};

/** Whether a tool has a mark of its own. */
export const hasToolMark = (id: string): boolean => id in DRAWN;

/** The tool that a step was made with: of a seam its preset. */
export const toolOf = (step: { type: string; preset?: unknown }): string =>
  step.type === "seam" ? `seam-${String(step.preset)}` : step.type;

export function ToolMark({ id, size = 20, className }: { id: string; size?: number; className?: string }) {
  const drawn = DRAWN[id];
  if (!drawn) return null;
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.3}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
      className={`shrink-0 ${className ?? ""}`}
    >
      {drawn.chain ? <path d={drawn.chain} strokeWidth={0.9} strokeDasharray="4 1.4 0.6 1.4" /> : null}
      {drawn.broken ? <path d={drawn.broken} strokeWidth={1} strokeDasharray="1.8 1.8" /> : null}
      <path d={drawn.line} />
    </svg>
  );
}
