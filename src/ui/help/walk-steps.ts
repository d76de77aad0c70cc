import type { Job } from "@/core/job";
import type { WorkspaceStoreApi } from "../state/workspace-store";

/** What a stop of the walk can do to show what it tells of. */
export interface Guide {
  workspace: WorkspaceStoreApi;
  job: Job;
  open(step: string): void;
  leave(): void;
}

export interface Stop {
  title: string;
  text: string;
  /** What lights up on the page: a selector. */
  at: string;
  show?(guide: Guide): void;
}

const seamOf = ({ job, workspace }: Guide) => {
  const part = job.parts.find(({ id }) => id === workspace.getState().part);
  return part?.steps.filter(({ type }) => type === "seam").at(-1)?.id;
};

/** The walk through the demo: eight stops, each of which can be left, and none of which changes the job. */
export const WALK: readonly Stop[] = [
  {
    title: "A mould for a rubber foot",
    text: "The foot pad came as a STEP file. A block stands round it, hollowed by it, and parted along a sheet off its rim. The upper half is seen through.",
    at: "[data-view]",
    show: ({ workspace, job, leave }) => {
      leave();
      workspace.getState().set({ part: job.parts[0]!.id, selected: null, section: null, alone: null, stage: null });
    },
  },
  {
    title: "The build sheet",
    text: "Every step in order. Open one, change a number, and all that follows is built again; what a step could not do stands under it, with what would mend it.",
    at: "aside",
  },
  {
    title: "Pieces, each in hand",
    text: "The last step divides the block. Its pieces lie in the tray: point at one and it lights up; the slider pulls them apart, so that none hides behind another.",
    at: "section[aria-label=Pieces]",
    show: (guide) => {
      const seam = seamOf(guide);
      if (seam) guide.open(seam);
      guide.workspace.getState().set({ pull: 0.6 });
    },
  },
  {
    title: "Keep, scrap, join",
    text: "Say for each piece whether it stays. The choice stays with that piece when sizes change; where it could be two, you are asked, never guessed for.",
    at: "section[aria-label=Pieces]",
  },
  {
    title: "Bodies on the bench",
    text: "What is there after the last step: hide it, show it alone, give it a colour and a material, and its mass is told. Drawings that have served are folded away.",
    at: "section[aria-label=Bench]",
    show: ({ leave }) => leave(),
  },
  {
    title: "What is selected",
    text: "Click a face: under the view stands what can be done with it, filled in with it. The right button opens a menu with all that lies there, one behind the other.",
    at: "[data-view]",
    show: ({ workspace }) => {
      const body = workspace.getState().evaluation?.items.find(({ kind }) => kind === "solid");
      workspace.getState().set({ selected: body?.id ?? null, selectedFace: null });
    },
  },
  {
    title: "Anything by typing",
    text: "Press / and type: tools, steps, bodies, parts, parameters, views. Press ? for all keys; the digits open the stages on the left.",
    at: "header",
    show: ({ workspace }) => workspace.getState().set({ selected: null }),
  },
  {
    title: "Checked, then released",
    text: "Check counts open edges and shows draft before anything is cut. Release writes STEP, 3MF, STL or OBJ. That is all: change a number and see what follows.",
    at: "nav[aria-label=Stages]",
  },
];
