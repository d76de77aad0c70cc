import { freeResult, resultBytes, type StepResult } from "./result";

/** Keeps results by key up to a limit of bytes; the ones unused for longest go first, and their shapes are freed. */
export class ResultCache {
  private readonly results = new Map<string, StepResult>();

  constructor(private readonly limit = 256 * 1024 * 1024) {}

  get(key: string): StepResult | undefined {
    const found = this.results.get(key);
    if (found) {
      this.results.delete(key);
      this.results.set(key, found);
    }
    return found;
  }

  put(result: StepResult): void {
    this.results.set(result.key, result);
  }

  /** Frees what is over the limit. Called between evaluations, so nothing in use is freed; `keep` names what is. */
  trim(keep: ReadonlySet<string>): void {
    let total = 0;
    for (const result of this.results.values()) total += resultBytes(result);
    for (const [key, result] of this.results) {
      if (total <= this.limit) return;
      if (keep.has(key)) continue;
      total -= resultBytes(result);
      this.results.delete(key);
      freeResult(result);
    }
  }

  clear(): void {
    for (const result of this.results.values()) freeResult(result);
    this.results.clear();
  }

  get size(): number {
    return this.results.size;
  }
}
