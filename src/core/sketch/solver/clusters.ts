import { Groups } from "../../groups";
import type { Equations } from "./equations";
import { type Freedom, freedom } from "./freedom";
import { solve } from "./solve";

/** Equations that share unknowns, directly or through others, over those unknowns alone. */
interface Cluster {
  equations: Equations[];
  /** The place in the whole of each of the cluster's own unknowns. */
  unknowns: number[];
}

/** What has nothing to do with one another is solved apart: a hundred drawings side by side cost a hundred small ones. */
function clustersOf(equations: readonly Equations[], x: Float64Array): Cluster[] {
  // The first unknown leads its cluster, so that the order of the clusters is that of what they hold.
  const groups = new Groups(x.length);
  for (const { unknowns } of equations) for (const unknown of unknowns) groups.join(unknowns[0]!, unknown);
  const clusters = new Map<number, Cluster>();
  const none: Cluster = { equations: [], unknowns: [] };
  const at = new Map<number, number>();
  for (const equation of equations) {
    if (equation.unknowns.length === 0) {
      none.equations.push(equation);
      continue;
    }
    const lead = groups.of(equation.unknowns[0]!);
    const cluster = clusters.get(lead) ?? { equations: [], unknowns: [] };
    clusters.set(lead, cluster);
    cluster.equations.push(equation);
    for (const unknown of equation.unknowns)
      if (!at.has(unknown)) {
        at.set(unknown, cluster.unknowns.length);
        cluster.unknowns.push(unknown);
      }
  }
  const whole = x.slice();
  return [...clusters.values(), ...(none.equations.length > 0 ? [none] : [])].map(({ equations: own, unknowns }) => ({
    unknowns,
    equations: own.map((equation) => ({
      ...equation,
      unknowns: equation.unknowns.map((unknown) => at.get(unknown)!),
      run(values) {
        for (const unknown of equation.unknowns) whole[unknown] = values[at.get(unknown)!]!;
        return equation.run(whole);
      },
    })),
  }));
}

/** The equations of a drawing, told apart once and solved as often as something moves. */
export class System {
  private readonly clusters: Cluster[];

  constructor(
    equations: readonly Equations[],
    private readonly start: Float64Array,
  ) {
    this.clusters = clustersOf(equations, start);
  }

  /** Like `solve`, each cluster for itself. */
  solve(start: Float64Array, ease?: Float64Array): { x: Float64Array; residual: number } {
    const x = start.slice();
    let residual = 0;
    for (const { equations, unknowns } of this.clusters) {
      const own = (values: Float64Array) => Float64Array.from(unknowns, (unknown) => values[unknown]!);
      const solved = solve(equations, own(start), ease && own(ease));
      unknowns.forEach((unknown, i) => {
        x[unknown] = solved.x[i]!;
      });
      residual = Math.max(residual, solved.residual);
    }
    return { x, residual };
  }

  /** What can still move, and what is said twice, of the whole drawing. */
  freedom(x: Float64Array): Freedom {
    const loose = Array.from(this.start, () => true);
    const dependent: Freedom["dependent"] = [];
    let degrees = x.length;
    for (const { equations, unknowns } of this.clusters) {
      const own = freedom(
        equations,
        Float64Array.from(unknowns, (unknown) => x[unknown]!),
      );
      degrees += own.degrees - unknowns.length;
      dependent.push(...own.dependent);
      unknowns.forEach((unknown, i) => {
        loose[unknown] = own.loose[i]!;
      });
    }
    return { degrees, loose, dependent };
  }
}
