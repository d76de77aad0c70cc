import { type Pair, stateWords, surelyApart, verdictOf } from "../../fit/audit";
import { identityOf } from "../../kernel";
import { counted } from "../../words";
import { type AskedFit, type CheckedBody, runs } from "../check-run";
import type { Found } from "../declare";
import { fitCheck } from "./declare";
import { triedPair, whyNot } from "./fits";

interface Line extends Found {
  /** mm: less than nothing where they share room. */
  size: number;
  state: Pair["state"] | "unknown";
}

export const runFit = runs(fitCheck, ({ within }, bodies, fits) => {
  const lines: Line[] = [];
  let pairs = 0;
  for (const [i, one] of bodies.entries())
    for (const other of bodies.slice(i + 1)) {
      // What was brought in from another part, and is as it is there, is that very body.
      if (identityOf(one.body.shape) === identityOf(other.body.shape)) continue;
      pairs++;
      const asked = fits.find(({ ends }) => isOf(ends, one, other)) ?? null;
      const line = lineOf(one, other, asked, within);
      if (line) lines.push(line);
    }
  const missing = fits.filter((asked) => whyNot(asked) !== null).map(missingLine);
  const found = [...missing, ...lines.sort((a, b) => Number(b.bad) - Number(a.bad) || a.size - b.size)];
  const count = (state: Line["state"]) => found.filter((line) => "state" in line && line.state === state).length;
  const bad = found.filter(({ bad }) => bad).length;
  const [sharing, touching] = [count("overlap"), count("touch")];
  return {
    summary:
      pairs === 0
        ? "There is only one body: nothing to hold it against."
        : `Of ${counted(pairs, "pair")} of bodies ${sharing === 0 ? "none shares" : sharing === 1 ? "1 shares" : `${sharing} share`} room, ${touching === 1 ? "1 touches" : `${touching} touch`}${bad === 0 ? ": nothing has to be looked at." : `; ${bad} to be looked at.`}`,
    good: bad === 0,
    ...(sharing > 0 ? { note: "How deep bodies share room is read at places of the faces that bound it." } : {}),
    columns: ["Bodies", "Lie", "Gap", "Wanted"],
    found: found.map(({ ...line }) => {
      const { size: _size, state: _state, ...rest } = line as Line;
      return rest;
    }),
    lit: [],
    bands: [],
    paint: [],
  };
});

const isOf = (ends: AskedFit["ends"], one: CheckedBody, other: CheckedBody): boolean => {
  const ids = ends.map(({ part, at, body }) => (body ? `${part} ${at} ${body.id}` : ""));
  return ids.includes(keyOf(one)) && ids.includes(keyOf(other));
};
const keyOf = ({ part, at, body }: CheckedBody) => `${part} ${at} ${body.id}`;
const nameOf = ({ name, elsewhere }: CheckedBody) => (elsewhere === null ? name : `${elsewhere}: ${name}`);

function lineOf(one: CheckedBody, other: CheckedBody, asked: AskedFit | null, within: number): Line | null {
  const about = {
    body: one.body.id,
    edges: [],
    cells: [`${nameOf(one)} – ${nameOf(other)}`],
  };
  const ends = {
    one: { part: one.part, at: one.at, body: one.body.id },
    other: { part: other.part, at: other.at, body: other.body.id, faces: [] as number[] },
    fit: asked?.place ?? null,
  };
  const wanted = asked?.problem === null ? asked.wanted : null;
  if (!wanted && surelyApart(one.body, other.body, within)) return null;
  const pair = triedPair(one.body, other.body);
  if (typeof pair === "string")
    return { ...about, cells: [...about.cells, pair, "", ""], faces: [], bad: true, size: 0, state: "unknown" };
  if (!wanted && pair.gap > within) return null;
  const verdict = wanted ? verdictOf(pair, wanted) : null;
  const [mine, its] = pair.faces;
  return {
    ...about,
    cells: [...about.cells, pair.state === "apart" ? "apart" : stateWords(pair), sizeCell(pair), verdict?.words ?? ""],
    faces: mine,
    bad: verdict ? !verdict.holds : pair.state === "overlap",
    pair: { ...ends, other: { ...ends.other, faces: its }, at: [[...pair.at[0]], [...pair.at[1]]] },
    size: pair.overlap ? -pair.overlap.depth : pair.gap,
    state: pair.state,
  };
}

/** How far apart, how deep, or in which area. */
function sizeCell({ state, gap, contact, overlap }: Pair) {
  if (state === "overlap") return { length: -overlap!.depth };
  return state === "touch" ? { area: contact! } : { length: gap };
}

/** A wanted fit that cannot be held against anything. */
function missingLine(asked: AskedFit): Found {
  const { ends } = asked;
  return {
    cells: [ends.map(({ name }) => name).join(" – "), whyNot(asked) ?? "", "", ""],
    body: ends.find(({ body }) => body)?.body?.id ?? "",
    faces: [],
    edges: [],
    bad: true,
  };
}
