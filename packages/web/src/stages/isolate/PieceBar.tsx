import { linearHex, requiredHex } from '../../ui/colour.ts';
import { SwatchPair } from '../../ui/SwatchPair.tsx';
import { useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';

/** The piece in hand as it is on this frame; what a piece is, while there is none. */
export function PieceBar({ inHand: { piece, shot, requirement } }: { inHand: InHand }) {
  const live = useAppSelector((s) => s.live);
  if (!piece)
    return (
      <div className="empty">
        A piece is the thing that must change its colour: a product, a garment, a vehicle or a prop. Add one with the +
        at the top to begin.
      </div>
    );
  return (
    <h2>
      <SwatchPair from={live ? linearHex(live.before.meanLinear) : null} to={requiredHex(requirement)} size={26} />
      {piece.name}
      <span className="quiet">
        {piece.kind}
        {shot ? ` in ${shot.name}` : ''}
      </span>
    </h2>
  );
}
