import { fail } from "../../errors";
import {
  broughtInStep,
  facesOf,
  freeShape,
  KernelFault,
  notedGap,
  readStepShapes,
  type Shape,
  type StepContents,
  soundSolid,
  trianglesClose,
  unsoundness,
  type Vec3,
  volumeOf,
  widestGap,
} from "../../kernel";
import { EXACT } from "../../tolerance";
import { formatDeviation } from "../../units";
import { type Damage, faceRecords, facesListed, isSolid, linksOf } from "./damage";
import { type StepNames, stepNames } from "./names";
import { checkPart21, type Part21Record, parseRecords } from "./part21";
import { type Salvaged, salvage } from "./salvage";

export interface StepBody {
  kind: "solid" | "sheet";
  name: string;
  /** Owned by the caller. */
  shape: Shape;
}

/** What is to be known of a file that was read: one sentence, of which of its bodies, and where. */
export interface StepWarning {
  code:
    | "import-partial"
    | "import-damaged"
    | "import-mended"
    | "import-open"
    | "import-invalid"
    | "import-gap"
    | "import-rough";
  message: string;
  body?: StepBody;
  at?: Vec3;
}

export interface StepFile {
  bodies: StepBody[];
  /** The unit that the file was written in; the bodies are in millimetres all the same. */
  unit: string | null;
  /** What was in the file and is not brought in, what is wrong with it, and what was mended. */
  warnings: StepWarning[];
}

/**
 * Reads a STEP file of any unit into millimetres, with the names that it gives its bodies. A damaged file gives what is
 * whole in it, and every body is looked over: whatever is not as it should be comes as a warning.
 * @param name the file's name, for messages.
 * @throws SeamError with one sentence: empty, not STEP, cut off, unreadable, without geometry.
 */
export function readStep(bytes: Uint8Array, name: string): StepFile {
  checkPart21(bytes, name);
  const salvaged = salvage(bytes);
  const { records, damage } = salvaged;
  const names = stepNames(records);
  const warnings: StepWarning[] = [];
  if (damage) tellDamage(name, salvaged, damage, parseRecords(bytes), warnings);
  let contents: StepContents;
  try {
    contents = readStepShapes(salvaged.bytes);
  } catch (cause) {
    if (cause instanceof KernelFault)
      fail("file-unreadable", `“${name}” is damaged: its records cannot be read. Export it again.`);
    throw cause;
  }
  if (contents.shapes.length === 0) refuseEmpty(name, names, salvaged);
  if (contents.looseCurves > 0)
    warnings.push({
      code: "import-partial",
      message: `“${name}” also holds ${contents.looseCurves} loose curves, which are not brought in.`,
    });
  if (names.unit === null)
    warnings.push({
      code: "import-damaged",
      message: `“${name}” does not say in which unit it is written: it was taken as millimetres. Measure it before use.`,
    });
  tellFaulty(name, contents, records, warnings);
  const bodies = lookOver(name, contents, records, names, warnings);
  tellRough(bodies, warnings);
  tellUnmade(contents, records, names, warnings);
  if (bodies.length === 0)
    fail("no-geometry", `“${name}” holds nothing that can be used. ${warnings.at(-1)?.message ?? ""}`.trim());
  return { bodies, unit: names.unit, warnings };
}

const some = (list: readonly string[], most = 3): string =>
  list.length > most ? `${list.slice(0, most).join(", ")} and ${list.length - most} more` : list.join(", ");

/** What records are called in a sentence: `#12`. */
const numbered = (ids: readonly number[]) => some(ids.map((id) => `#${id}`));

function tellDamage(
  name: string,
  { edgesMended, brokenLines }: Salvaged,
  { missing, repeated, circular, spoilt, bodies }: Damage,
  /** Those of the file as it came. */
  records: readonly Part21Record[],
  warnings: StepWarning[],
): void {
  const names = stepNames(records);
  const faults: string[] = [];
  if (missing.length > 0) {
    const needed = missing.map(({ id, neededBy }) => `#${id} (needed by ${neededBy || "another"})`);
    faults.push(`${some(needed)} ${missing.length === 1 ? "is" : "are"} missing`);
  }
  if (repeated.length > 0)
    faults.push(`${numbered(repeated)} ${repeated.length === 1 ? "stands" : "stand"} there twice`);
  if (circular.length > 0)
    faults.push(
      `${numbered(circular)} ${circular.length === 1 ? "is" : "are"} made of ${circular.length === 1 ? "itself" : "themselves"}`,
    );
  if (spoilt.length > 0)
    faults.push(
      `${numbered(spoilt)} ${spoilt.length === 1 ? "is" : "are"} not made up as ${spoilt.length === 1 ? "its kind is" : "their kinds are"}`,
    );
  const lines =
    brokenLines.length > 0
      ? `${brokenLines.length === 1 ? "line" : "lines"} ${some(brokenLines.map(String))} cannot be read`
      : "";
  const all = [...(lines ? [lines] : []), ...(faults.length > 0 ? [`of its records ${faults.join("; ")}`] : [])];
  warnings.push({
    code: "import-damaged",
    message: `“${name}” is damaged: ${all.join("; ")}. Names, units and places may be lost with them. Export it again.`,
  });
  if (edgesMended > 0)
    warnings.push({
      code: "import-mended",
      message: `${edgesMended} ${edgesMended === 1 ? "edge was" : "edges were"} mended: what ${edgesMended === 1 ? "it looks" : "they look"} like on their faces was damaged, and follows from the curve in space.`,
    });
  const given = [...bodies].filter(([id]) => isSolid(records.find((record) => record.id === id)));
  for (const [id, fault] of given.length > 0 ? given : [...bodies].slice(0, 1)) {
    const called = names.nameOf(records.findIndex((record) => record.id === id) + 1);
    warnings.push({
      code: "import-partial",
      message: `${called ? `“${called}”` : `The body #${id}`} is not brought in: it is made of #${fault}, which is damaged.`,
    });
  }
}

function refuseEmpty(name: string, names: StepNames, { damage, brokenLines }: Salvaged): never {
  if (damage) {
    const [lost] = damage.missing;
    const [twice, circle, wild] = [damage.repeated[0], damage.circular[0], damage.spoilt[0]];
    const why = lost
      ? `its record #${lost.id}, needed by ${lost.neededBy || "another"}, is missing`
      : twice !== undefined
        ? `its record #${twice} stands there twice`
        : circle !== undefined
          ? `its record #${circle} is made of itself`
          : wild === undefined
            ? `its line ${brokenLines[0]} cannot be read`
            : `its record #${wild} is not made up as its kind is`;
    fail("file-unreadable", `“${name}” is damaged: ${why}, and no body is whole without it. Export it again.`);
  }
  if (names.otherFiles.length > 0) {
    const listed = names.otherFiles.slice(0, 4).map((file) => `“${file}”`);
    const rest = names.otherFiles.length - listed.length;
    fail(
      "geometry-elsewhere",
      `“${name}” only points at other files, where its bodies are. Bring in ${listed.join(", ")}${rest > 0 ? ` and ${rest} more` : ""} instead.`,
    );
  }
  const instead =
    names.has("TESSELLATED_SOLID") || names.has("TESSELLATED_SHELL")
      ? " It holds triangles only; export exact solids."
      : "";
  fail(
    "no-geometry",
    `“${name}” holds no solids or sheets.${instead || " Export the solid model, not only its drawing or structure."}`,
  );
}

function tellFaulty(
  name: string,
  { faulty }: StepContents,
  records: readonly Part21Record[],
  warnings: StepWarning[],
): void {
  if (faulty.length === 0) return;
  const listed = faulty.map((place) => {
    const record = records[place - 1];
    return record ? `#${record.id} ${record.types.join(" ")}` : `record ${place}`;
  });
  warnings.push({
    code: "import-damaged",
    message: `“${name}” is damaged: ${some(listed)} cannot be read as ${faulty.length === 1 ? "it stands" : "they stand"}. Check what came in, or export it again.`,
  });
}

/** Farther apart than this, mm, and the numbers of a file do not agree about where edges meet. */
const WIDE_GAP = 0.02;

/** Looks at each body, mends what can be mended, leaves out what cannot be measured. */
function lookOver(
  name: string,
  { shapes }: StepContents,
  records: readonly Part21Record[],
  names: StepNames,
  warnings: StepWarning[],
): StepBody[] {
  const fallback = name.replace(/\.[^.]*$/, "") || "Body";
  const links = linksOf(records);
  const faces = faceRecords(records);
  return shapes.flatMap(({ kind, shape: read, record }): StepBody[] => {
    const shape = broughtInStep(read) ?? read;
    if (shape !== read) freeShape(read);
    const body: StepBody = { kind, shape, name: names.nameOf(record) ?? fallback };
    const tell = (code: StepWarning["code"], message: string, at?: Vec3) =>
      warnings.push({ code, message, body, ...(at ? { at } : {}) });
    const called = `“${body.name}”`;
    const fault = unsoundness(shape, kind) ?? (kind === "solid" && !trianglesClose(shape) ? "invalid" : null);
    if (fault === "not-finite") {
      warnings.push({
        code: "import-partial",
        message: `${called} is not brought in: its numbers cannot be measured. Export it again.`,
      });
      freeShape(shape);
      return [];
    }
    if (fault && kind === "solid") {
      const tried = soundSolid(shape);
      const mended = tried && trianglesClose(tried.shape) ? tried : null;
      if (tried && !mended) freeShape(tried.shape);
      if (mended) {
        body.shape = mended.shape;
        const how =
          mended.sewn === null
            ? "its skin was put right"
            : `its faces were joined over gaps of up to ${mended.sewn} mm`;
        tell(
          "import-mended",
          `${called} came in ${fault === "open" ? "open" : "with faults"} and was mended: ${how}. Its volume is ${volumeOf(mended.shape).toFixed(1)} mm³ now: check it.`,
        );
        freeShape(shape);
      } else if (fault === "open")
        tell(
          "import-open",
          `${called} came in as a solid but its skin is not closed. Check it before cutting with it.`,
        );
      else
        tell(
          "import-invalid",
          `${called} came in with faults: its faces and edges do not fit each other. Check it before cutting with it.`,
        );
    } else if (fault)
      tell(
        "import-invalid",
        `${called} came in with faults: its faces and edges do not fit each other. Check it before cutting with it.`,
      );
    const source = record === null ? undefined : records[record - 1];
    const listed = source ? facesListed(source.id, faces, links) : 0;
    const made = facesOf(body.shape).length;
    if (made < listed)
      tell(
        "import-damaged",
        `${called} came in with ${made} of its ${listed} faces: the others could not be made. Check it before use.`,
      );
    if (kind === "sheet" && isSolid(source))
      tell(
        "import-damaged",
        `${called} is a solid in “${name}”, and came in as a sheet: its skin could not be closed.`,
      );
    const gap = widestGap(body.shape);
    if (gap && gap.size > WIDE_GAP)
      tell(
        "import-gap",
        `The numbers of ${called} do not agree: edges that should meet are up to ${gap.size.toPrecision(2)} mm apart. Check it there before use.`,
        gap.at,
      );
    return [body];
  });
}

/** Bodies whose numbers agree less closely than those of exact ones: as other programs write them, of use, and to be known. */
function tellRough(bodies: readonly StepBody[], warnings: StepWarning[]): void {
  const rough = bodies.flatMap((body) => {
    const gap = notedGap(body.shape) > EXACT ? widestGap(body.shape) : null;
    return gap && gap.size > EXACT && gap.size <= WIDE_GAP ? [{ body, ...gap }] : [];
  });
  const [first] = rough.sort((a, b) => b.size - a.size);
  if (!first) return;
  const others = rough.length > 1 ? ` and ${rough.length - 1} more` : "";
  warnings.push({
    code: "import-rough",
    message: `“${first.body.name}”${others} came in right to ${formatDeviation(first.size)} only: that far apart are edges and faces that should meet, and what is cut from it is no closer.`,
    body: first.body,
    at: first.at,
  });
}

/** Bodies that the file lists and that came to nothing. */
function tellUnmade(
  { shapes }: StepContents,
  records: readonly Part21Record[],
  names: StepNames,
  warnings: StepWarning[],
): void {
  const made = new Set(shapes.map(({ record }) => record));
  const unknown = shapes.filter(({ kind, record }) => kind === "solid" && record === null).length;
  const unmade = records.flatMap((record, i) =>
    isSolid(record) && !made.has(i + 1) ? [{ record, place: i + 1 }] : [],
  );
  for (const { record, place } of unmade.slice(unknown)) {
    const called = names.nameOf(place);
    warnings.push({
      code: "import-partial",
      message: `${called ? `“${called}”` : `The solid #${record.id}`} is not brought in: it could not be made from its records, or has no place in the file.`,
    });
  }
}
