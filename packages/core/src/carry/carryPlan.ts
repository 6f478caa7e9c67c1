// Which passes a carried selection needs.
import type { CarryRun } from '../document/carried.ts';
import type { ScribbleLayer, Stroke } from '../document/layer.ts';

/** Does a stroke tell what is selected? One that only says where that is partly so does not. */
const teaches = ({ sign }: Stroke): boolean => sign !== 'unsure';

/** The frames that have strokes, ascending: those that a selection is carried from. */
export function taughtFrames(strokes: readonly Stroke[]): number[] {
  const frames = new Set(strokes.filter(teaches).flatMap((s) => (s.frame === undefined ? [] : [s.frame])));
  return [...frames].sort((a, b) => a - b);
}

/** In short, what the strokes on a frame are (FNV-1a, 32 bit): a pass counts as current while that is the same. */
export function strokesMark(strokes: readonly Stroke[], frame: number): string {
  const text = JSON.stringify(
    strokes
      .filter((s) => s.frame === frame && teaches(s))
      .map(({ sign, widthPx, points, reach }) => [sign, widthPx, points, ...(reach === undefined ? [] : [reach])]),
  );
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}

/** A pass to be made. */
export type CarrySpan = Omit<CarryRun, 'id' | 'found'>;

/**
 * The passes that are missing: from each frame with strokes to the next one on either side, or to the end of the shot
 * (`frames`, both included). What has been carried from the same strokes as far stands, unless all is to be made anew.
 */
export function passesNeeded(
  { strokes, carried = [] }: Pick<ScribbleLayer, 'strokes' | 'carried'>,
  frames: { from: number; to: number },
  anew = false,
): CarrySpan[] {
  const taught = taughtFrames(strokes).filter((f) => f >= frames.from && f <= frames.to);
  const stands = (span: CarrySpan) =>
    carried.some(
      (run) =>
        run.from === span.from &&
        run.strokes === span.strokes &&
        (span.to > span.from ? run.to >= span.to : run.to <= span.to) &&
        run.to > run.from === span.to > span.from,
    );
  return taught
    .flatMap((from, k): CarrySpan[] => {
      const mark = strokesMark(strokes, from);
      const forward = { from, to: taught[k + 1] ?? frames.to, strokes: mark };
      const backward = { from, to: taught[k - 1] ?? frames.from, strokes: mark };
      return [forward, backward];
    })
    .filter((span) => span.from !== span.to && (anew || !stands(span)));
}
