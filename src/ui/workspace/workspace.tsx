"use client";
import { Tooltip } from "radix-ui";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useShallow } from "zustand/react/shallow";
import type { JobState } from "@/core/job";
import { startBrowserEngines } from "@/engine/browser/spawn";
import type { EngineHost } from "@/engine/host";
import { Commands } from "../commands/commands";
import { Walk } from "../help/walk";
import { ParameterTable } from "../params/parameter-table";
import { SketchOverlay } from "../sketch/overlay";
import { RegionOverlay } from "../sketch/region-overlay";
import { StoresProvider, useJob, useStores, useWorkspace } from "../state/context";
import { createJobStore } from "../state/job-store";
import { useEvaluation } from "../state/use-evaluation";
import { useOthers } from "../state/use-others";
import { shownPieces } from "../state/view-content";
import { createWorkspaceStore } from "../state/workspace-store";
import { Framing } from "../viewport/framing";
import { Handles } from "../viewport/handles";
import { PickedBar, PointerMenu } from "../viewport/picked-bar";
import type { ViewScene } from "../viewport/scene";
import { SideMarks } from "../viewport/side-marks";
import { ViewFrame } from "../viewport/view-frame";
import { ViewOverlay } from "../viewport/view-overlay";
import { Viewport } from "../viewport/viewport";
import { Bench } from "./bench";
import { BuildSheet } from "./build-sheet";
import { CheckPanel } from "./check-panel";
import { OpenCheck } from "./checks";
import { ComparePanel } from "./compare-panel";
import { MeasurePanel } from "./measure-panel";
import { Notices } from "./notices";
import { PieceTray } from "./piece-tray";
import { PlacesSheet } from "./places-sheet";
import { ReleaseDialog } from "./release-dialog";
import { StageRail } from "./stage-rail";
import { TopBar } from "./top-bar";
import { ViewBar } from "./view-bar";

/** Where a module of WebAssembly lies that engines import past the bundler. */
function served(origin: string, name: string) {
  const at = `${origin}/kernel/${process.env.NEXT_PUBLIC_KERNEL_VERSION}/${name}`;
  return { module: `${at}.js`, wasm: `${at}.wasm` };
}

/** One job at work: stages on the left, the view, the build sheet on the right, the bench below. */
export function Workspace({ initial, leanEngine }: { initial: JobState; leanEngine: boolean }) {
  const [stores] = useState(() => {
    let host: EngineHost | null = null;
    return {
      job: createJobStore(initial),
      workspace: createWorkspaceStore(initial.document.parts[0]!.id),
      engines: () => {
        const { origin } = window.location;
        host ??= startBrowserEngines(
          {
            kernel: served(origin, "kernel"),
            triangles: served(origin, "triangles"),
            files: `${origin}/api/files/`,
            geometry: `${origin}/api/geometry/`,
          },
          leanEngine,
        );
        return host;
      },
    };
  });
  useEffect(() => {
    stores.job.resume();
    return () => stores.job.dispose();
  }, [stores]);
  return (
    <StoresProvider value={stores}>
      <Tooltip.Provider delayDuration={400}>
        <Bays />
      </Tooltip.Provider>
    </StoresProvider>
  );
}

function Bays() {
  const { stop } = useEvaluation();
  const [scene, setScene] = useState<ViewScene | null>(null);
  const takeScene = useCallback((next: ViewScene | null) => setScene(next), []);
  const pieces = useWorkspace(useShallow((state) => shownPieces(state)));
  const whole = useWorkspace((state) => state.whole);
  useOthers();
  const parametersOpen = useWorkspace((state) => state.parametersOpen);
  useExistingPart();
  useTestHandle(scene);
  return (
    <div className="flex h-dvh min-h-[560px] min-w-[960px] flex-col">
      <TopBar stop={stop} />
      <Notices />
      <div className="grid min-h-0 grow grid-cols-[auto_minmax(0,1fr)_auto]">
        <StageRail />
        <main className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto]">
          <div data-view className="relative min-h-0 min-w-0 overflow-hidden">
            <div className="absolute inset-0">
              <Viewport onScene={takeScene} />
            </div>
            <SketchOverlay scene={scene} />
            <RegionOverlay scene={scene} />
            <ViewBar scene={scene} />
            <ViewOverlay scene={scene} />
            <SideMarks scene={scene} />
            <Handles scene={scene} />
            <ViewFrame scene={scene} />
            <PickedBar />
            <Framing scene={scene} />
            <PointerMenu />
            <Walk />
            <CheckPanel />
            <MeasurePanel />
            <OpenCheck />
            <ComparePanel />
          </div>
          {parametersOpen ? <ParameterTable /> : whole ? null : pieces ? <PieceTray pieces={pieces} /> : <Bench />}
        </main>
        {whole ? <PlacesSheet scene={scene} /> : <BuildSheet />}
      </div>
      <ReleaseDialog />
      <Commands scene={scene} />
    </div>
  );
}

/** Shows another part when the one on the sheet is gone, as after an undo. */
function useExistingPart(): void {
  const { workspace } = useStores();
  const part = useWorkspace((state) => state.part);
  const first = useJob((state) => (state.job.parts.some((entry) => entry.id === part) ? null : state.job.parts[0]!.id));
  useEffect(() => {
    if (first)
      workspace.setState({
        part: first,
        editing: null,
        picking: null,
        selected: null,
        evaluation: null,
        checking: null,
      });
  }, [first, workspace]);
}

/** Where a point of the model lies on the screen, for the tests that click in the view. */
function useTestHandle(scene: ViewScene | null): void {
  const handle = useMemo(
    () => ({ project: (point: [number, number, number]) => scene?.project(point) ?? null }),
    [scene],
  );
  useEffect(() => {
    (window as unknown as { boldSeamView?: typeof handle }).boldSeamView = handle;
  }, [handle]);
}
