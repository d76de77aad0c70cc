"use client";
import { useShallow } from "zustand/react/shallow";
import type { PieceView } from "@/engine/contract";
import { formatLength } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { neighboursOf } from "../state/piece-picks";
import { lookOfPiece, placeOfPiece, shiftsOf, shownPieces } from "../state/view-content";
import { pieceColour } from "./palette";
import type { ViewScene } from "./scene";

/** Beyond so many, only those are numbered that are pointed at or picked, and what they were cut from. */
const MOST = 40;

/**
 * The numbers of the pieces where they lie, as on their cards; from the one that is pointed at a line to each that it was cut from,
 * which can be followed when they are pulled apart, and how long its seam is.
 */
export function PieceNumbers({ scene }: { scene: ViewScene }) {
  const pieces = useWorkspace(useShallow(shownPieces));
  const seen = useWorkspace(
    useShallow(({ shownPieces: shown, pieceFilter, hover, alone }) => ({
      shownPieces: shown,
      pieceFilter,
      hover,
      alone,
    })),
  );
  const selected = useWorkspace((state) => state.selected);
  const picks = useWorkspace((state) => state.pickedPieces);
  const pull = useWorkspace((state) => state.pull);
  const unit = useJob((state) => state.job.units);
  if (!pieces) return null;
  const shifts = shiftsOf(pieces, pull);
  const point = (index: number) =>
    scene.project(
      placeOfPiece(pieces[index]!).map((value, k) => value + shifts[index]![k]!) as [number, number, number],
    );
  const chosen = pieces.find(({ key }) => key === (seen.hover?.id ?? selected));
  const near = neighboursOf(pieces, chosen?.key ?? null);
  const shown = pieces.filter((piece) => lookOfPiece(piece, seen) === "body");
  const rank = (piece: PieceView) => (piece === chosen ? 3 : near.has(piece.index) ? 2 : picks.has(piece.key) ? 1 : 0);
  // What matters most lies on top.
  const numbered = shown
    .filter((piece) => shown.length <= MOST || rank(piece) > 0)
    .sort((a, b) => rank(a) - rank(b) || a.index - b.index);
  const from = chosen && lookOfPiece(chosen, seen) === "body" ? point(chosen.index) : null;
  return (
    <>
      {from
        ? numbered
            .filter(({ index }) => near.has(index))
            .map(({ index, key }) => {
              const to = point(index);
              const ends = { x1: from.x, y1: from.y, x2: to.x, y2: to.y };
              return (
                <g key={key} data-beside={index + 1} strokeLinecap="round">
                  <line {...ends} stroke="var(--sheet)" strokeWidth={4} opacity={0.8} />
                  <line {...ends} stroke="var(--ink)" strokeWidth={1.4} strokeDasharray="5 4" />
                </g>
              );
            })
        : null}
      {numbered.map((piece) => {
        const { x, y } = point(piece.index);
        const strong = piece === chosen || picks.has(piece.key);
        return (
          <g
            key={piece.key}
            data-number={piece.index + 1}
            opacity={chosen && !strong && !near.has(piece.index) ? 0.45 : 1}
          >
            <circle
              cx={x}
              cy={y}
              r={strong ? 11 : 9}
              fill={pieceColour(piece.index)}
              stroke="var(--ink)"
              strokeWidth={strong ? 2.2 : 1}
            />
            <text
              x={x}
              y={y + 4}
              textAnchor="middle"
              className="num"
              fontSize={piece.index < 99 ? 11.5 : 9.5}
              fill="#fff"
              stroke="#000"
              strokeWidth={2.4}
              paintOrder="stroke"
            >
              {piece.index + 1}
            </text>
            {piece === chosen && piece.seam > 0 ? (
              <text
                data-seam
                x={x}
                y={y + 27}
                textAnchor="middle"
                className="num"
                fontSize={12}
                fill="var(--ink)"
                stroke="var(--sheet)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                seam {formatLength(piece.seam, unit)}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
}
