"use client";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { useStore } from "zustand";
import { scopeOf } from "@/core/job";
import type { ParameterScope } from "@/core/params";
import type { EngineHost } from "@/engine/host";
import type { JobStore, JobStoreHandle } from "./job-store";
import { type Found, foundIn } from "./whereabouts";
import type { WorkspaceStore, WorkspaceStoreApi } from "./workspace-store";

interface Stores {
  job: JobStoreHandle;
  workspace: WorkspaceStoreApi;
  engines: () => EngineHost;
}

const StoresContext = createContext<Stores | null>(null);

export function StoresProvider({ value, children }: { value: Stores; children: ReactNode }) {
  return <StoresContext.Provider value={value}>{children}</StoresContext.Provider>;
}

export function useStores(): Stores {
  const stores = useContext(StoresContext);
  if (!stores) throw new Error("Outside of the workspace.");
  return stores;
}

export function useJob<T>(select: (state: JobStore) => T): T {
  return useStore(useStores().job.store, select);
}

export function useWorkspace<T>(select: (state: WorkspaceStore) => T): T {
  return useStore(useStores().workspace, select);
}

/** The names that formulas of the shown part can use. */
export function useScope(): ParameterScope {
  const ofJob = useJob((state) => state.job.parameters);
  const part = usePart();
  const editing = useWorkspace((state) => state.editing);
  return useMemo(() => {
    // What is being typed counts already: a dimension may name another of the same sketch.
    const steps = part.steps.map((step) => (step.id === editing?.step.id ? editing.step : step));
    return scopeOf({ parameters: ofJob }, { ...part, steps });
  }, [ofJob, part, editing]);
}

/** What the engine made of the references that are shown. */
export function useFound(): Found {
  const evaluation = useWorkspace((state) => state.evaluation);
  return useMemo(() => foundIn(evaluation), [evaluation]);
}

const OtherPartContext = createContext<string | null>(null);

/** What stands in it is about another part than the one that is worked on. */
export const AboutPart = OtherPartContext.Provider;

export function usePart() {
  const worked = useWorkspace((state) => state.part);
  const id = useContext(OtherPartContext) ?? worked;
  return useJob((state) => state.job.parts.find((part) => part.id === id) ?? state.job.parts[0]!);
}
