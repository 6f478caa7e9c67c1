import { useEffect, useMemo, useState } from 'react';
import { frameCount, type Span } from '@mellow/contract';
import { frameClient } from '../../engine/frameClient.ts';
import type { CutOutAnswer } from '../../engine/frameProtocol.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';

/** Pixels of a cell: two for one of the page, fine screens show more. */
export const CELL = { width: 184, height: 136 };
/** More frames than this are not looked at one by one. */
const MOST = 240;
/** A frame whose selected area is off that of the frames beside it by this share stands out. */
const JUMP = 0.12;

/** The frames of a span that a filmstrip shows: all, or evenly some. */
export function framesShown(span: Span, most = MOST): number[] {
  const every = Math.ceil(frameCount(span) / most);
  const frames: number[] = [];
  for (let f = span.from; f <= span.to; f += every) frames.push(f);
  return frames;
}

/** Is a frame's area off what lies between those of the frames beside it? The first and the last have one beside. */
export function isJump(shares: readonly (number | undefined)[], at: number): boolean {
  const own = shares[at];
  if (own === undefined) return false;
  const beside = [shares[at - 1], shares[at + 1]].filter((s) => s !== undefined);
  if (beside.length === 0) return false;
  const [low, high] = [Math.min(...beside), Math.max(...beside)];
  const off = Math.max(low - own, own - high, 0);
  return off > JUMP * Math.max(own, high);
}

/** What is selected on the frames of the shot in hand, found one after the other while the filmstrip is open. */
export function useFilmstrip(inHand: InHand) {
  const { document, shot, media, span, piece, colourwayId, motions } = inHand;
  const frames = useMemo(() => (span ? framesShown(span) : []), [span]);
  const [found, setFound] = useState<{ of: InHand; cells: ReadonlyMap<number, CutOutAnswer> }>();
  useEffect(() => {
    if (!shot || !media) return undefined;
    const wanted = new AbortController();
    const cells = new Map<number, CutOutAnswer>();
    const looked = { document, shot, media, colourwayId, pieceId: piece?.id, motions };
    const go = async () => {
      for (const frame of frames) {
        const scene = frameSceneAt(looked, frame, false);
        if (scene.index < 0) return;
        const answer = await frameClient().ask({ kind: 'cut-out', ...scene, ...CELL }, wanted.signal);
        cells.set(frame, answer);
        setFound({ of: inHand, cells: new Map(cells) });
      }
    };
    // what cannot be shown is left empty: the picture says why
    go().catch(() => undefined);
    return () => wanted.abort();
  }, [document, shot, media, colourwayId, piece?.id, motions, frames, inHand]);
  const cells = found?.of === inHand ? found.cells : NO_CELLS;
  return { frames, cells };
}
const NO_CELLS: ReadonlyMap<number, CutOutAnswer> = new Map();
