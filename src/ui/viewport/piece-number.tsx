import { pieceColour } from "./palette";

/** The number of a piece in its colour, as on its card. */
export const PieceNumber = ({ index }: { index: number }) => (
  <span
    className="num grid size-5 shrink-0 place-items-center rounded-full border border-ink text-[0.75rem] text-white"
    style={{ background: pieceColour(index), textShadow: "0 0 2px #000, 0 0 2px #000" }}
  >
    {index + 1}
  </span>
);
