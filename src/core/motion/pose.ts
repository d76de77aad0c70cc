import { after, IDENTITY, ofTurn, type Transform } from "../place";
import { type Move, partOf, placementOf } from "./moves";

/** Where a body is after a part of its way, 0 to 1, of which each move is as much. */
export function poseOnWay(moves: readonly Move[], part: number): Transform {
  const reached = part * moves.length;
  return moves.reduce((pose, move, i) => {
    const share = Math.max(0, Math.min(1, reached - i));
    return share === 0 ? pose : after(ofTurn(placementOf(partOf(move, share))), pose);
  }, IDENTITY);
}
