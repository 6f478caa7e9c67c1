import type { InHand } from '../inhand/inHand.ts';

/** What stands in the view instead of a picture, or over it; undefined when all is well. */
export function whyNoPicture({ document, shot, media }: InHand, problem: string | undefined): string | undefined {
  if (!shot) return 'No shot yet. Bring footage in at the Shots stage.';
  const proxies = media && document.proxies[media.id];
  if (!proxies || proxies.state === 'done') return problem;
  if (proxies.state === 'failed') return `The proxies of ${shot.name} could not be made: ${proxies.message}`;
  return `Proxies of ${shot.name} are being made: ${proxies.done} of ${proxies.total} frames.`;
}
