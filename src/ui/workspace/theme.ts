"use client";
import { useCallback, useSyncExternalStore } from "react";
import { settings } from "../settings/settings";

function subscribe(changed: () => void): () => void {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
  return () => observer.disconnect();
}

/** Light as paper or dark as graphite; the choice stays in this browser. */
export function useTheme(): { dark: boolean; toggle(): void } {
  const dark = useSyncExternalStore(
    subscribe,
    () => document.documentElement.dataset.theme === "dark",
    () => false,
  );
  const toggle = useCallback(() => {
    settings.getState().change({ theme: document.documentElement.dataset.theme === "dark" ? "light" : "dark" });
  }, []);
  return { dark, toggle };
}
