import type { Media } from '@mellow/contract';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { FirstStepsOffer } from '../guide/FirstStepsOffer.tsx';
import { useFeed } from '../inhand/feed.ts';
import { placeFeed } from './pointerFeeds.ts';
import { ProbeNote } from './ProbeNote.tsx';
import { useProbe } from './useProbe.ts';

/** Proxies are at most this wide. */
const PROXY_WIDTH = 960;

/** The pixel under the pointer. It alone is rendered while the pointer moves over the picture. */
export function Readout({ task, media }: { task: ShowTask | undefined; media: Media | undefined }) {
  const at = useFeed(placeFeed);
  const probe = useProbe(at, task, media?.width);
  if (!at || !media) return <FirstStepsOffer />;
  return <ProbeNote at={at} probe={probe} scale={Math.min(1, PROXY_WIDTH / media.width)} />;
}
