// Words burnt into review files: what the shot is called, and where in it one is.
import { createRequire } from 'node:module';
import type { Outgoing } from './presets/output.ts';

/** DejaVu Sans: Latin, Greek, Cyrillic and more. */
const FONT = createRequire(import.meta.url).resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf');

/** A text as the value of an option in a filter graph: ffmpeg-filters, "Notes on filtergraph escaping", both levels. */
export const filterValue = (text: string): string =>
  text.replaceAll(/[\\':]/g, String.raw`\$&`).replaceAll(/[\\'[\],;]/g, String.raw`\$&`);

/** Filters that write over a picture's lower edge; none where nothing is to be written. */
export function burnInFilters({ burnIn, firstFrame, timecode, fps }: Outgoing): string {
  if (burnIn === undefined) return '';
  const look = 'fontcolor=white:fontsize=h/26:box=1:boxcolor=black@0.6:boxborderw=4:y=h-th-12';
  const drawn = (what: string) => `,drawtext=fontfile=${filterValue(FONT)}:${what}:${look}`;
  const name = drawn(`expansion=none:x=12:text=${filterValue(burnIn)}`);
  const frame = drawn(`x=w-tw-12:text=%{frame_num}:start_number=${firstFrame}`);
  const from = timecode === null ? '' : filterValue(timecode);
  const code = from && drawn(`x=(w-tw)/2:timecode=${from}:timecode_rate=${fps.num}/${fps.den}`);
  return `${name}${code}${frame}`;
}
