// Other footage under the work of a shot: the same frames, graded or cleaned anew, conformed by timecode.
import { framesOf, framesOfTimecode, type Media, type ProjectDocument, type Shot, type Span } from '@mellow/contract';
import type { Change } from '../editing/change.ts';

/** Rates that are written differently are the same up to this. */
const SAME_RATE = 0.005;
const rateOf = ({ fps }: Media): number => fps.num / fps.den;

/** How many frames later a piece of footage begins than another, by their timecodes; 0 where one has none. */
function laterBy(media: Media, was: Media): number {
  const [now, before] = [media, was].map((m) => (m.timecode ? framesOfTimecode(m.timecode, m.fps) : undefined));
  return now === undefined || before === undefined ? 0 : now - before;
}

/** Does anything of a shot lie on frames by their numbers? */
function hasFrameNumbers(document: ProjectDocument, { id, patches }: Shot): boolean {
  const isOfShot = ({ value }: { value: { shotId: string } }) => value.shotId === id;
  const isKeyed = document.recipes.some(({ value }) => value.animated[id] !== undefined);
  return (
    patches.length > 0 ||
    isKeyed ||
    [document.sightings, document.tracks, document.stills].some((rows) => rows.some(isOfShot))
  );
}

interface Place {
  /** The frames of the new footage that the shot will show. */
  span: Span;
  /** Why it cannot take the place; left out: it can. */
  whyNot?: string;
}
/** Where a shot's frames lie in other footage. */
export function placeIn(document: ProjectDocument, shot: Shot, media: Media): Place {
  const was = document.media.find((m) => m.id === shot.mediaId)!;
  const { from, to } = framesOf(shot, was);
  const later = laterBy(media, was);
  const span = { from: from - later, to: to - later };
  const no = (whyNot: string): Place => ({ span, whyNot });
  if (media.width !== was.width || media.height !== was.height)
    return no(`is of ${media.width} × ${media.height}, not ${was.width} × ${was.height}`);
  if (Math.abs(rateOf(media) - rateOf(was)) > SAME_RATE)
    return no(`has ${+rateOf(media).toFixed(3)} frames a second, not ${+rateOf(was).toFixed(3)}`);
  if (span.from < 0 || span.to >= media.frames) return no('does not hold all frames of the shot');
  if (later !== 0 && hasFrameNumbers(document, shot))
    return no(
      `begins at ${media.timecode}, not ${was.timecode}: keyframes, tracks and strokes would lie on other frames`,
    );
  return { span };
}

/** Is it as it came in: the whole of its footage, and nothing done in it? */
const isUntouched = (document: ProjectDocument, shot: Shot): boolean =>
  shot.span === null && shot.balance === null && !hasFrameNumbers(document, shot);

/**
 * Puts other footage under a shot, whose work stays; a shot that only holds that footage as it came in makes room. No
 * change where it does not fit.
 */
export function replaceFootage(document: ProjectDocument, shot: Shot, media: Media): Change {
  const label = `Replace the footage of ${shot.name}`;
  const { span, whyNot } = placeIn(document, shot, media);
  if (whyNot !== undefined || media.id === shot.mediaId) return { label, edits: [] };
  const isAll = span.from === 0 && span.to === media.frames - 1;
  const value: Shot = { ...shot, mediaId: media.id, span: isAll ? null : span };
  const spare = document.shots
    .map((s) => s.value)
    .filter((s) => s.mediaId === media.id && s.id !== shot.id && isUntouched(document, s))
    .filter((s) => s.id !== document.project.value.referenceShotId);
  return {
    label,
    edits: [
      { kind: 'shot', id: shot.id, value },
      ...spare.slice(0, 1).map(({ id }) => ({ kind: 'shot' as const, id, value: null })),
    ],
  };
}
