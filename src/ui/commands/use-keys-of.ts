"use client";
import { useSettings } from "../settings/settings";
import { keysFor, type NamedCommand } from "./command";

/** The key that a command has now, to be shown where the thing is. */
export const useKeysOf = (id: NamedCommand): string => useSettings((state) => keysFor(id, state.keys));
