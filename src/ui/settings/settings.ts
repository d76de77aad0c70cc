import * as z from "zod";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

const PLACE = "bold-seam:settings";

/** What a mouse's buttons and a trackpad do in the view. */
export const GESTURES = ["turn", "shift"] as const;

const settingsSchema = z.object({
  theme: z.enum(["system", "light", "dark"]).catch("system"),
  text: z.enum(["small", "usual", "large"]).catch("usual"),
  /** Units that a new job begins with. */
  units: z.enum(["mm", "inch"]).catch("mm"),
  /** Places after the point of a length in millimetres; inches show one more. */
  decimals: z.number().int().min(1).max(4).catch(3),
  /** Lengths in inches that are whole fractions down to this are shown so; 0 for never. */
  fractions: z.union([z.literal(0), z.literal(16), z.literal(32), z.literal(64)]).catch(0),
  /** What dragging with the main button does; the other buttons do the other. */
  drag: z.enum(GESTURES).catch("turn"),
  /** What the wheel does when it is turned away from oneself. */
  wheel: z.enum(["nearer", "farther"]).catch("nearer"),
  perspective: z.boolean().catch(false),
  floor: z.boolean().catch(true),
  /** Width of the build sheet, pixels, and whether it and the bench are folded away. */
  sheetWidth: z.number().int().min(260).max(720).catch(320),
  sheetFolded: z.boolean().catch(false),
  benchFolded: z.boolean().catch(false),
  /** Keys that were changed, by command; empty for none. */
  keys: z.record(z.string(), z.string()).catch({}),
  /** Commands that were used last, the newest first. */
  recent: z.array(z.string()).max(50).catch([]),
  /** Whether the walk through the demo was done or left. */
  walked: z.boolean().catch(false),
});
export type Settings = z.infer<typeof settingsSchema>;

/** What is kept in this browser; what cannot be read is as it comes. */
function load(): Settings {
  let kept: unknown = {};
  try {
    // The theme was kept by itself once.
    const theme = localStorage.getItem("bold-seam:theme");
    kept = { ...(theme ? { theme } : {}), ...JSON.parse(localStorage.getItem(PLACE) ?? "{}") };
  } catch {
    // Without storage, or with something else in it: as it comes.
  }
  const checked = settingsSchema.safeParse(typeof kept === "object" && kept !== null ? kept : {});
  return checked.success ? checked.data : settingsSchema.parse({});
}

interface SettingsStore extends Settings {
  change(values: Partial<Settings>): void;
}

/** How this person works, in this browser: nothing of it is part of a job. */
export const settings = createStore<SettingsStore>()((set, get) => ({
  ...settingsSchema.parse({}),
  change(values) {
    set(values);
    const { change: _change, ...all } = get();
    try {
      localStorage.setItem(PLACE, JSON.stringify(all));
    } catch {
      // The choice holds for this page.
    }
    if (values.theme || values.text) showLook(all);
  },
}));

/** Puts the theme and the size of the text onto the page. */
function showLook({ theme, text }: Settings): void {
  const { dataset } = document.documentElement;
  const dark = theme === "dark" || (theme === "system" && matchMedia("(prefers-color-scheme: dark)").matches);
  dataset.theme = dark ? "dark" : "light";
  if (text === "usual") delete dataset.text;
  else dataset.text = text;
}

// After the first state, which is what the server drew the page with.
if (typeof window !== "undefined") settings.setState(load());

/** Another tab changed something, or the room went dark. */
if (typeof window !== "undefined") {
  window.addEventListener("storage", (event) => {
    if (event.key !== PLACE) return;
    settings.setState(load());
    showLook(settings.getState());
  });
  matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => showLook(settings.getState()));
}

export function useSettings<T>(select: (state: SettingsStore) => T): T {
  return useStore(settings, select);
}
