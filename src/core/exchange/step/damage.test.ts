import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { SeamError } from "../../errors";
import { freeShape } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { sampled } from "../../testing/sample";
import { Random } from "../../testing/trust/random";
import { type Inspection, inspectStep } from "../inspect";
import { readStep } from ".";

beforeAll(loadNodeKernel);

/** How many damages by chance are tried: a sample here, more in the long proof. */
const SPOILT = Number(process.env.PROOF_DAMAGES ?? 60);

const FILE = path.join(__dirname, "../../../../demo/foot-pad.step");
const whole = readFileSync(FILE, "utf8");
const bytes = (text: string) => new TextEncoder().encode(text);
/** Every record of the file: its number and its text. */
const records = [...whole.matchAll(/^#(\d+)\s*=[^;]*;\s*\n/gm)].map((match) => ({ id: match[1]!, text: match[0] }));

/** All that a reading says of the bodies, to the last digit that matters; what they are called and where they stand, where that is asked. */
const account = ({ unit, bodies }: Inspection, known: boolean) =>
  JSON.stringify([
    unit,
    bodies.map(({ name, volume, area, box, faceKinds, ...rest }) => ({
      ...rest,
      // A shell is a set of faces: in another order it is the same.
      faceKinds: Object.entries(faceKinds).sort(([a], [b]) => a.localeCompare(b)),
      // Elsewhere, 100 m off perhaps, the last digits are rounded otherwise.
      volume: known ? volume?.toFixed(6) : volume?.toPrecision(8),
      area: known ? area.toFixed(6) : area.toPrecision(8),
      name: known && name,
      box: known && box,
    })),
  ]);

type Outcome = "same" | "told" | "refused" | "silent";

/** What reading a damaged text comes to: silent where the bodies are others than the file's own and nobody said so. */
function outcome(text: string, right: Inspection, known = true): { outcome: Outcome; said: string } {
  try {
    const found = inspectStep(bytes(text), "pad.step");
    for (const { volume } of found.bodies) if (volume !== null) expect(Number.isFinite(volume)).toBe(true);
    const said = found.warnings.join(" ");
    const broken = found.bodies.some(({ kind, closed, valid }) => !valid || (kind === "solid" && !closed));
    if (account(found, known) === account(right, known) && !broken) return { outcome: said ? "told" : "same", said };
    return { outcome: said ? "told" : "silent", said };
  } catch (cause) {
    if (!(cause instanceof SeamError)) throw cause;
    return { outcome: "refused", said: cause.message };
  }
}

describe("a damaged STEP file is told", () => {
  let right: Inspection;
  beforeAll(() => {
    const found = inspectStep(bytes(whole), "pad.step");
    expect(found.warnings).toEqual([]);
    expect(found.bodies).toMatchObject([{ kind: "solid", closed: true, valid: true }]);
    right = found;
  });

  test("each of its 373 records left out: none in silence, none crashes", { timeout: 300_000 }, () => {
    expect(records).toHaveLength(373);
    const came = records.map(({ id, text }) => ({ id, ...outcome(whole.replace(text, ""), right) }));
    expect(came.filter(({ outcome: how }) => how === "silent")).toEqual([]);
    // Nothing is needed of a record that nothing points to; all others are told.
    const same = came.filter(({ outcome: how }) => how === "same").map(({ id }) => id);
    expect(same.filter((id) => new RegExp(`[(,]#${id}[,)]`).test(whole))).toEqual([]);
  });

  test("numbers, pointers, kinds, senses and letters spoilt by seed: none in silence", { timeout: 300_000 }, () => {
    const random = new Random(20261128);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)]!;
    const [from, to] = [whole.indexOf("DATA;"), whole.lastIndexOf("ENDSEC")];
    const found = (pattern: RegExp) => [...whole.slice(from, to).matchAll(pattern)];
    const numbers = found(/(?<=[(,])-?\d+\.\d*(?:E-?\d+)?/g);
    const pointers = found(/(?<=[(,])#\d+/g);
    const kinds = found(/[A-Z][A-Z_0-9]+(?=\()/g);
    const senses = found(/\.[TF]\./g);
    const put = (match: RegExpMatchArray, text: string) => {
      const at = from + match.index!;
      return whole.slice(0, at) + text + whole.slice(at + match[0].length);
    };
    const spoilers = [
      () => put(pick(numbers), pick(["1.E300", "1E308", "nan", "-5.", "0.", "7.77", "99999.", "$", "*", ""])),
      () => put(pick(pointers), `#${pick(records).id}`),
      () => put(pick(kinds), pick(kinds)[0]),
      () => {
        const sense = pick(senses);
        return put(sense, sense[0] === ".T." ? ".F." : ".T.");
      },
      () => {
        const at = from + Math.floor(random.next() * (to - from));
        return whole.slice(0, at) + whole.slice(at + 1 + Math.floor(random.next() * 30));
      },
      () => {
        const at = from + Math.floor(random.next() * (to - from));
        return whole.slice(0, at) + pick([..."0123456789.,()#';$* "]) + whole.slice(at + 1);
      },
    ];
    for (let i = 0; i < SPOILT; i++) {
      const text = spoilers[i % spoilers.length]!();
      // A direction that turns the whole body about makes another file, and a sound one; so does a letter of a name.
      const { outcome: came, said } = outcome(text, right, false);
      expect(came, `${i}: ${said}`).not.toBe("silent");
    }
  });

  test.each([
    ["an edge all round that runs the other way", "#137 = EDGE_CURVE('',#115,#115,#138,.T.);", ".T.);", ".F.);"],
    ["a circle that is looked at from behind", "#142 = DIRECTION('',(0.,0.,1.));", "1.));", "-5.));"],
  ])("%s, where two round faces meet: told, though each of its faces weighs as before", (_, record, old, now) => {
    expect(whole).toContain(record);
    const { outcome: came, said } = outcome(whole.replace(record, record.replace(old, now)), right, false);
    expect(came).toBe("told");
    expect(said).toContain("its faces and edges do not fit each other");
  });

  test("lists emptied, cut short, turned round, or with a member twice: none in silence", { timeout: 300_000 }, () => {
    const all = [...whole.matchAll(/\((#\d+(?:,#\d+)*)\)/g)];
    expect(all.length).toBeGreaterThan(40);
    const lists = sampled(all, 2);
    const came = lists.flatMap((match) => {
      const members = match[1]!.split(",");
      const changed = [[], members.slice(0, -1), members.slice(1), [...members, members[0]!], [...members].reverse()];
      return changed.flatMap((list) => {
        if (list.join(",") === match[1]) return [];
        const at = match.index! + 1;
        const text = whole.slice(0, at) + list.join(",") + whole.slice(at + match[1]!.length);
        const record = whole.slice(whole.lastIndexOf("\n", at) + 1, at + 30);
        return [{ record, list: list.join(","), ...outcome(text, right) }];
      });
    });
    expect(came.filter(({ outcome: how }) => how === "silent")).toEqual([]);
    expect(came.filter(({ outcome: how }) => how === "told" || how === "refused").length).toBeGreaterThan(
      0.5 * lists.length,
    );
  });

  test("what an edge looks like on its faces is no loss: it is mended, and said", () => {
    const { warnings, bodies } = readStep(bytes(whole.replace(/#36 = [^;]*;/, "")), "pad.step");
    expect(warnings.map(({ code }) => code)).toEqual(["import-damaged", "import-mended"]);
    expect(warnings[0]!.message).toContain("#36 (needed by PCURVE) is missing");
    for (const { shape } of bodies) freeShape(shape);
  });

  test("a file of two bodies of which one is damaged gives the other", () => {
    const two = `${whole.slice(0, whole.lastIndexOf("ENDSEC"))}${shifted()}${whole.slice(whole.lastIndexOf("ENDSEC"))}`;
    const both = inspectStep(bytes(two), "two.step");
    expect(both.bodies).toHaveLength(2);
    const found = inspectStep(bytes(two.replace(/^#1026 = [^;]*;/m, "")), "two.step");
    expect(found.bodies).toHaveLength(1);
    expect(found.bodies[0]!.volume).toBeCloseTo(both.bodies[0]!.volume!, 6);
    expect(found.warnings.join(" ")).toMatch(/“Foot pad” is not brought in: it is made of #1026/);
  });

  test("a face that looks inward makes a body invalid, whatever the library says", () => {
    const turned = whole.replace("#82 = EDGE_CURVE('',#60,#60,#83,.T.)", "#82 = EDGE_CURVE('',#60,#60,#83,.F.)");
    expect(turned).not.toBe(whole);
    const { bodies, warnings } = inspectStep(bytes(turned), "pad.step");
    expect(bodies[0]!.valid).toBe(false);
    expect(warnings.join(" ")).toMatch(/came in with faults/);
  });

  test("numbers as some programs write them are no damage", () => {
    const odd = whole.replace("(22.,0.,0.)", "(2.2e+01,.0,0)").replace(/'',0\.785398163397\)/, "'',7.85398163397e-01)");
    expect(odd).not.toBe(whole);
    expect(inspectStep(bytes(odd), "pad.step").warnings).toEqual([]);
  });

  test("a file that names no unit says so", () => {
    const { warnings } = inspectStep(bytes(whole.replace(/LENGTH_UNIT\(\)/, "MASS_UNIT()")), "pad.step");
    expect(warnings.join(" ")).toMatch(/does not say in which unit/);
  });
});

/** The same records again with other numbers: a second product in the file. */
function shifted(): string {
  return records.map(({ text }) => text.replace(/#(\d+)/g, (_all, id: string) => `#${Number(id) + 1000}`)).join("");
}
