import { z } from 'zod';
import { MediaId } from '@mellow/contract';
import { findMedia, noteFrameBytes } from '../db/media.ts';
import { frameBytes } from '../keeping/sizes.ts';
import { makeProxies } from '../media/proxies.ts';
import type { JobWork } from './queue.ts';
import { scheduleMeasurementsOfMedia } from './measureWork.ts';

const ProxyPayload = z.object({ mediaId: MediaId });

/** Writes the frames that browsers show; then the sightings of its shots can be measured. */
export const proxyJob: JobWork = async ({ pool, store }, { payload, signal, report }) => {
  const { mediaId } = ProxyPayload.parse(payload);
  const stored = await findMedia(pool, mediaId);
  if (!stored) throw new Error('the footage is no longer there');
  await makeProxies(store, stored, report, signal);
  await noteFrameBytes(pool, mediaId, await frameBytes(store, mediaId));
  await scheduleMeasurementsOfMedia(pool, mediaId);
};
