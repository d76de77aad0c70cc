import type { SavedView } from "@/core/job";
import type { Stance } from "../viewport/view-camera";
import type { WorkspaceStoreApi } from "./workspace-store";

/** What looks at the part. */
interface Looking {
  camera: { stance(): Stance; take(stance: Stance): void };
}

/** Looks at the part as a view says. */
export function takeView(view: SavedView, { camera }: Looking, workspace: WorkspaceStoreApi): void {
  workspace.getState().set({ section: view.section && { ...view.section } });
  camera.take(view);
}

/** How the part is looked at now, under a name: in thousandths, which nobody sees. */
export function viewNow(name: string, { camera }: Looking, workspace: WorkspaceStoreApi): SavedView {
  const { from, at, across } = camera.stance();
  const { section } = workspace.getState();
  return {
    name,
    from: rounded(from, 1e6),
    at: rounded(at, 1e3),
    across: Math.max(Math.round(across * 1e3) / 1e3, 1e-3),
    section: section && { axis: section.axis, at: section.at, flip: section.flip },
  };
}

const rounded = ([x, y, z]: readonly [number, number, number], parts: number): [number, number, number] => {
  const near = (value: number) => Math.round(value * parts) / parts + 0;
  return [near(x), near(y), near(z)];
};

/** The first of View 1, View 2 … that no view of a list has. */
export function freeViewName(views: readonly { name: string }[]): string {
  let number = 1;
  while (views.some(({ name }) => name === `View ${number}`)) number++;
  return `View ${number}`;
}
