import type { Repair } from "../../errors";
import { type Body, has } from "../../items";
import { areaOf, nearlyInPlane, nearlyMeetFlat, surfaceCentre, volumeOf } from "../../kernel";
import { type Quantity, toMm } from "../../params";
import { type Division, type FateRule, type Knife, type Piece, pieceRefOf, type Settled } from "../../seam";
import { formatDeviation } from "../../units";
import { counted } from "../../words";
import type { StepContext } from "../evaluation";

/** mm: a piece that is thinner on the whole cannot be cut, printed or cast, and was meant by nobody. */
const SLIVER = 0.01;

/** What slivers are looked for with, and what the step says of them. */
interface Scene {
  stock: readonly Body[];
  knives: readonly Knife[];
  mergeUnder: Quantity;
  /** Decisions that more may be added to; null where there is no place for any. */
  fates: readonly FateRule[] | null;
  /** The step that may be told to merge them; the one that is being done where it is left out. */
  merges?: string;
  /** The pieces, by index, that somebody decided on. */
  decided: ReadonlySet<number>;
}

/**
 * Takes pieces that are thinner than the step says as parts of what they lie beside: they get its fate, and are one body with it where it
 * stays. Those that stay as bodies of their own are told.
 * @returns the fates, and for each sliver that stays the piece that it belongs to.
 */
export function withSlivers(
  division: Division,
  settled: Settled,
  scene: Scene,
  context: StepContext,
): { settled: Settled; into: ReadonlyMap<Piece, Piece> } {
  const under = toMm(scene.mergeUnder);
  const thin = thinPieces(division, settled, scene, Math.max(under, SLIVER), under > SLIVER);
  if (thin.length === 0) return { settled, into: NONE };
  const found = merged(
    { ...settled, decided: scene.decided },
    thin.filter(({ thick }) => thick < under),
  );
  const left = thin.filter(
    ({ piece, thick }) =>
      thick < SLIVER &&
      !found.into.has(piece) &&
      !scene.decided.has(piece.index) &&
      found.settled.fates[piece.index]!.fate !== "scrap",
  );
  tellSlivers(left, scene, context);
  return found;
}

const NONE: ReadonlyMap<Piece, Piece> = new Map();

/** How thin a piece is to the size of its sides at the most to be a sliver: small things are no slivers. */
const FLAT = 0.05;

/** The mean thickness of a piece, mm: twice its volume over its skin. */
const thicknessOf = ({ shape }: Piece) => (2 * volumeOf(shape)) / areaOf(shape);

/** A piece that is thinner than it can be made, and the one that it shares the most with. */
interface Thin {
  piece: Piece;
  /** mm */
  thick: number;
  beside: Piece | null;
}

/**
 * The solid pieces that stay and are thinner than a limit. They are looked for where something lies to something else so nearly that there
 * may be any: weighing every piece takes longer than most divisions.
 * @param under mm. @param always whether to look for them wherever things lie.
 */
function thinPieces(division: Division, { fates }: Settled, scene: Scene, under: number, always: boolean): Thin[] {
  if (!always && !mayBeThin(division, scene)) return [];
  const solids = division.pieces.filter(({ form, index }) => form === "solid" && fates[index]!.fate !== "scrap");
  const thin = new Map(
    solids.flatMap((piece) => {
      const thick = thicknessOf(piece);
      return thick < under && thick < FLAT * Math.sqrt(areaOf(piece.shape)) ? [[piece, thick] as const] : [];
    }),
  );
  return [...thin].map(([piece, thick]) => ({ piece, thick, beside: besideOf(piece, division, thin) }));
}

/** Whether something may be cut off that is thinner than a sliver: where surfaces nearly touch, or a corner lies nearly in a plane. */
function mayBeThin(division: Division, { stock, knives }: Scene): boolean {
  if (division.pieces.some(({ fusion }) => fusion.delicate)) return true;
  return stock.some((body) =>
    knives.some(({ item, shape }) =>
      has(item, "plane")
        ? nearlyInPlane(body.shape, { at: item.origin, normal: item.normal }, SLIVER)
        : item.id !== body.id && nearlyMeetFlat(body.shape, shape, SLIVER),
    ),
  );
}

/** The piece that is no sliver itself and shares the largest part of its skin with one. */
function besideOf(piece: Piece, division: Division, thin: ReadonlyMap<Piece, number>): Piece | null {
  const own = new Set(piece.uses.map(({ face }) => face));
  const shared = division.neighbours()[piece.index]!.flatMap((index) => {
    const other = division.pieces[index]!;
    if (thin.has(other)) return [];
    const faces = other.uses.filter(({ face }) => own.has(face));
    return [{ other, size: faces.reduce((sum, { face }) => sum + areaOf(piece.fusion.faceHandle(face)), 0) }];
  });
  return shared.sort((a, b) => b.size - a.size || a.other.index - b.other.index)[0]?.other ?? null;
}

/** Gives slivers the fate of what they lie beside: nobody's decision is overruled. */
function merged(settled: Settled, thin: readonly Thin[]): { settled: Settled; into: ReadonlyMap<Piece, Piece> } {
  const fates = [...settled.fates];
  const into = new Map<Piece, Piece>();
  for (const { piece, beside } of thin) {
    if (!beside || settled.decided.has(piece.index)) continue;
    fates[piece.index] = settled.fates[beside.index]!;
    if (fates[piece.index]!.fate === "keep") into.set(piece, beside);
  }
  return { settled: { ...settled, fates }, into };
}

/** Tells of slivers that stay as bodies of their own, and what may be done with them. */
function tellSlivers(told: readonly Thin[], { fates, merges }: Scene, context: StepContext): void {
  const [first] = told;
  if (!first) return;
  const { step } = context;
  const most = Math.max(...told.map(({ thick }) => thick));
  const beside = told.filter((one) => one.beside !== null);
  const others: Repair[] = [
    ...(beside.length > 0
      ? [
          {
            label:
              told.length === 1
                ? `Merge it into piece ${first.beside!.index + 1}`
                : `Merge them into what they lie beside`,
            step: merges ?? step,
            set: { mergeUnder: SLIVER },
          },
        ]
      : []),
    ...(fates
      ? [
          {
            label: told.length === 1 ? "Scrap it" : `Scrap all ${told.length}`,
            step,
            set: {
              fates: [...fates, ...told.map(({ piece }) => ({ piece: pieceRefOf(piece), fate: "scrap" as const }))],
            },
          },
        ]
      : []),
  ];
  const [at, ...places] = told.map(({ piece }): [number, number, number] => [...surfaceCentre(piece.shape)]);
  context.warn({
    code: "sliver",
    message: `${told.length === 1 ? `Piece ${first.piece.index + 1} is a sliver` : `${counted(told.length, "piece")} are slivers`}, ${formatDeviation(most)} thick${told.length === 1 ? "" : " at most"}: faces lie that near to each other there. Merging moves the cut by no more than that.`,
    step,
    field: "mergeUnder",
    bodies: [...new Set(told.flatMap(({ piece }) => piece.stock))],
    pieces: told.map(({ piece }) => piece.key()),
    at: at!,
    ...(places.length > 0 ? { places } : {}),
    others,
  });
}
