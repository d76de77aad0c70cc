import { STAGES, STEP_TYPES, type Stage } from "@/core/steps";

/** Something a stage offers: a step to add, with values to begin with. */
export interface Tool {
  id: string;
  label: string;
  line: string;
  type: string;
  values: Record<string, unknown>;
}

/** What the one engine is asked for: its presets, and some with values to begin with that make them something else to a workshop. */
const SEAM_TOOLS: readonly [id: string, label: string, line: string, values: Record<string, unknown>][] = [
  ["split", "Split", "Divide stock into pieces and keep them all", { preset: "split" }],
  [
    "choose",
    "Choose pieces",
    "Bodies that overlap divide one another; say of each piece what becomes of it",
    { preset: "choose" },
  ],
  [
    "seat",
    "Plug and seat",
    "Divide stock by a body and keep both: what lies in it, and the rest",
    { preset: "split", keepCutters: false },
  ],
  ["skin", "Split and close", "Divide sheets, and close each part along the cut", { preset: "split", close: true }],
  ["trim", "Trim", "Cut off what lies on one side of the cutters", { preset: "trim" }],
  [
    "each-other",
    "Trim each other",
    "Sheets or solids cut one another, and a side of each stays",
    { preset: "trim", mutual: true },
  ],
  ["subtract", "Subtract", "Hollow stock out with other solids", { preset: "subtract" }],
  [
    "carve",
    "Carve through",
    "An opening through a skin or a thin wall of sheets, and the walls of it",
    { preset: "subtract", close: true },
  ],
  ["union", "Union", "Make several solids one", { preset: "union" }],
  ["intersect", "Intersect", "Keep what solids have in common", { preset: "intersect" }],
  ["fill", "Fill", "Make solid what bodies, planes and sheets enclose", { preset: "fill" }],
];

const STAGE_WORDS: Record<Stage, string> = {
  draw: "Draw",
  shape: "Shape",
  sheets: "Sheets",
  seam: "Seam",
  fit: "Fit",
  tube: "Tube",
  mould: "Mould",
  check: "Check",
  release: "Release",
};

function toolsOf(stage: Stage): Tool[] {
  if (stage === "seam")
    return SEAM_TOOLS.map(([id, label, line, values]) => ({ id: `seam-${id}`, label, line, type: "seam", values }));
  return STEP_TYPES.filter((step) => step.words.stage === stage).map((step) => ({
    id: step.type,
    label: step.words.label,
    line: step.words.line,
    type: step.type,
    values: {},
  }));
}

/** Tools of one stage that do the same kind of thing, in the order of the work. */
const GROUPS: Partial<Record<Stage, { label: string; ids: string[] }[]>> = {
  shape: [
    { label: "Begin with", ids: ["box", "cylinder", "sphere", "cone", "torus", "wedge", "import"] },
    { label: "From a drawing", ids: ["extrude", "revolve", "loft", "sweep", "pipe"] },
    { label: "Change", ids: ["fillet", "chamfer", "draft", "shell", "scale"] },
    { label: "Place and repeat", ids: ["move", "align", "mirror", "pattern", "remove"] },
  ],
  seam: [
    { label: "Divide", ids: ["seam-split", "seam-choose", "seam-seat", "seam-skin"] },
    { label: "Cut off and out", ids: ["seam-trim", "seam-each-other", "seam-subtract", "seam-carve"] },
    { label: "Join and fill", ids: ["seam-union", "seam-intersect", "seam-fill"] },
  ],
};

export interface ToolGroup {
  label: string | null;
  tools: Tool[];
}

/** The tools of a stage in groups; what belongs to none comes last. */
function grouped(stage: Stage): ToolGroup[] {
  const tools = toolsOf(stage);
  const groups = GROUPS[stage];
  if (!groups) return tools.length > 0 ? [{ label: null, tools }] : [];
  const listed = new Set(groups.flatMap(({ ids }) => ids));
  const rest = tools.filter(({ id }) => !listed.has(id));
  return [
    ...groups.map(({ label, ids }) => ({
      label,
      tools: ids.flatMap((id) => tools.find((tool) => tool.id === id) ?? []),
    })),
    ...(rest.length > 0 ? [{ label: "More", tools: rest }] : []),
  ];
}

/** All tools, in the order of the work. */
export const TOOLS: readonly Tool[] = STAGES.flatMap(toolsOf);

/** The stages in the order of the work, those without tools left out. Check and Release open panels of their own. */
export const STAGE_LIST = STAGES.map((stage) => ({ stage, label: STAGE_WORDS[stage], groups: grouped(stage) })).filter(
  ({ stage, groups }) => groups.length > 0 || stage === "check" || stage === "release",
);
