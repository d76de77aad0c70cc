import type { EvaluateRequest, Evaluation, SentPiece } from "../contract";
import { Cancelled, EngineError, type EngineHost } from "../host";

export interface ReportLimits {
  /** How many reports may be made or wait at once. */
  most: number;
  /** How long one may take, ms. */
  time: number;
}

/** A report that was not made: busy with others, or it took too long. */
export class ReportRefused extends Error {
  constructor(
    readonly code: "busy" | "too-long" | "left",
    message: string,
  ) {
    super(message);
  }
}

const asked = new WeakMap<EngineHost, { count: number }>();

/**
 * Builds a part for a report, beside the requests of others: a few at a time, each for so long, and no longer than somebody
 * waits for it.
 * @throws ReportRefused, which says what to do.
 */
export async function report(
  engines: EngineHost,
  request: EvaluateRequest,
  signal: AbortSignal,
  { most, time }: ReportLimits,
): Promise<Evaluation<SentPiece>> {
  const waiting = asked.get(engines) ?? { count: 0 };
  asked.set(engines, waiting);
  if (waiting.count >= most)
    throw new ReportRefused("busy", "The server is busy with other reports. Try again in a moment.");
  waiting.count++;
  const late = AbortSignal.timeout(time);
  try {
    return await engines.ask("evaluate", request, { signal: AbortSignal.any([signal, late]) });
  } catch (cause) {
    if (cause instanceof Cancelled && late.aborted && !signal.aborted)
      throw new ReportRefused(
        "too-long",
        `The report took more than ${Math.round(time / 1000)} seconds and was stopped. Set the hold point higher up, or use the command line.`,
      );
    if (cause instanceof Cancelled) throw new ReportRefused("left", "Nobody waits for this report any more.");
    if (cause instanceof EngineError) throw new ReportRefused("too-long", cause.message);
    throw cause;
  } finally {
    waiting.count--;
  }
}
