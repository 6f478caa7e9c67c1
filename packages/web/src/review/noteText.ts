import { timecodeAfter, type Note, type ReviewPage } from '@mellow/contract';

/** A frame in the words of its shot: its timecode where it has one, and its number. */
export function placeText(
  { firstFrame, fps, timecode }: Pick<ReviewPage['shots'][number], 'firstFrame' | 'fps' | 'timecode'>,
  frame: number,
): string {
  const at = timecode === null ? undefined : timecodeAfter(timecode, fps, frame - firstFrame);
  return at ? `${at} · frame ${frame}` : `frame ${frame}`;
}

/** Notes as they are listed, in the order of their frames, each with the number that its pin has. */
export const numbered = <N extends Pick<Note, 'frame' | 'at'>>(notes: readonly N[]): (N & { number: number })[] =>
  [...notes]
    .sort((a, b) => a.frame - b.frame || a.at.localeCompare(b.at))
    .map((note, i) => ({ ...note, number: i + 1 }));
