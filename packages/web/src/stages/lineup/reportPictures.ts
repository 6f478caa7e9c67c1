// Pictures of the report: each isolated piece in each shot and colourway, cut out of its shot's middle frame.
import { framesOf, middleOf } from '@mellow/contract';
import { frameClient } from '../../engine/frameClient.ts';
import type { Picture } from '../../engine/frameProtocol.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { pictureKey, type SightingPictures } from './reportPdf.ts';

/** Pixels of the longer side: as printers want it at the size it has on the page. */
const MOST_PIXELS = 340;

async function dataAddress({ width, height, rgba }: Picture): Promise<string> {
  const whole = new OffscreenCanvas(width, height);
  whole.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  const scale = Math.min(MOST_PIXELS / Math.max(width, height), 1);
  const canvas = new OffscreenCanvas(Math.ceil(width * scale), Math.ceil(height * scale));
  const g = canvas.getContext('2d')!;
  g.imageSmoothingQuality = 'high';
  g.drawImage(whole, 0, 0, canvas.width, canvas.height);
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('a picture of the report could not be read'));
    reader.readAsDataURL(blob);
  });
}

/** Asks for them one after another; what cannot be made is left out. Throws where it is stopped. */
export async function reportPictures(
  { document, motionsOf }: Pick<InHand, 'document' | 'motionsOf'>,
  onProgress: (done: number, total: number) => void,
  signal: AbortSignal,
): Promise<Map<string, SightingPictures>> {
  const isolated = document.sightings.map((s) => s.value).filter((s) => s.layers.length > 0);
  const wanted = document.colourways.flatMap(({ value: { id } }) => isolated.map((sighting) => ({ id, sighting })));
  const pictures = new Map<string, SightingPictures>();
  for (const [done, { id, sighting }] of wanted.entries()) {
    signal.throwIfAborted();
    onProgress(done, wanted.length);
    const shot = document.shots.find((s) => s.value.id === sighting.shotId)!.value;
    const media = document.media.find((m) => m.id === shot.mediaId)!;
    if (document.proxies[media.id]?.state !== 'done') continue;
    const looked = { document, shot, media, pieceId: sighting.pieceId, motions: motionsOf(shot.id), colourwayId: id };
    const scene = frameSceneAt(looked, middleOf(framesOf(shot, media)));
    const crop = await frameClient().ask({ kind: 'crop', ...scene });
    if (!crop) continue;
    const [before, after] = await Promise.all([dataAddress(crop.before), dataAddress(crop.after)]);
    pictures.set(pictureKey(id, sighting.id), { before, after });
  }
  return pictures;
}
