import type { Upload } from '@mellow/contract';
import type { OnItsWay } from './useImport.ts';

/** Names that are said; the rest is counted. */
const SAID = 3;

/** What is on the server of files that were being sent, and how it goes on. */
export function halfSentText(uploads: readonly Upload[]): string {
  const said = uploads.slice(0, SAID).map(({ name, here, bytes }) => `${name} ${percent(here, bytes)} %`);
  const more = uploads.length - said.length;
  const all = more > 0 ? [...said, `${more} more`] : said;
  return `Sent, and not brought in: ${all.join(', ')}. Choose the same again to go on from there.`;
}
/** Full only where all of it is there. */
const percent = (here: number, bytes: number): number => (bytes === 0 ? 100 : Math.floor((100 * here) / bytes));

/** What is being done with files on their way. */
export function sendingText({
  name,
  share,
  isPaused,
  isWaiting,
}: Pick<OnItsWay, 'name' | 'share' | 'isPaused' | 'isWaiting'>): string {
  if (share >= 1) return `Checking ${name}: every frame is decoded once`;
  if (isPaused) return `${name} is paused`;
  if (isWaiting) return `Sending ${name}: the server does not answer; it goes on as soon as it does`;
  return `Sending ${name}`;
}
