import type { StepReport } from "@/core/evaluate";

/**
 * Reports with those in their place that were there before and say the same: whoever shows one shows it still. How long a step took
 * is as good as it was.
 */
export function withSameReports(reports: StepReport[], before: readonly StepReport[] = []): StepReport[] {
  const known = new Map(before.map((report) => [report.id, report] as const));
  return reports.map((report) => {
    const was = known.get(report.id);
    return was && said(was) === said(report) ? was : report;
  });
}

const said = ({ ms: _ms, ...rest }: StepReport) => JSON.stringify(rest);
