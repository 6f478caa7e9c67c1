// The other picture of a comparison, as a scene.
import { balanceOf, type Still } from '@mellow/contract';
import { sightingAt } from '@mellow/core';
import { withVersion } from '../commands/judging.ts';
import type { FrameScene } from '../engine/frameProtocol.ts';
import type { Against } from '../view/lookSlice.ts';
import { frameRefOf, frameSceneAt, withCarried, type Looked } from './frameScene.ts';

/** A still's picture as it was kept; undefined where its footage is not there. */
function stillScene({ document, pieceId }: Looked, still: Still): FrameScene | undefined {
  const shot = document.shots.find((s) => s.value.id === still.shotId)?.value;
  const media = document.media.find((m) => m.id === shot?.mediaId);
  if (!shot || !media || document.proxies[media.id]?.state !== 'done') return undefined;
  const asKept = { ...shot, encoding: still.encoding, balance: still.balance };
  const sightings = still.renders.map((render) => sightingAt(render, still.frame, new Map()));
  const frame = { ...frameRefOf(document, asKept, media, still.frame), balance: balanceOf(asKept) };
  return {
    frame: withCarried(
      frame,
      document,
      sightings.flatMap((s) => s.layers),
    ),
    sightings,
    index: still.renders.findIndex((r) => r.pieceId === pieceId),
  };
}

/** What is compared with on a frame, where it is a scene; undefined: the source, or where it is no longer there. */
export function againstScene(looked: Looked, frame: number, against: Against): FrameScene | undefined {
  const { document } = looked;
  switch (against.kind) {
    case 'source':
    case 'layer':
      return undefined;
    case 'still': {
      const still = document.stills.find((s) => s.value.id === against.id)?.value;
      return still && stillScene(looked, still);
    }
    case 'colourway':
      return frameSceneAt({ ...looked, colourwayId: against.id }, frame, false);
    case 'version': {
      const version = document.versions.find((v) => v.value.id === against.id)?.value;
      return version && frameSceneAt({ ...looked, document: withVersion(document, version) }, frame, false);
    }
  }
}
