// What a camera of the demo makes of a picture: grain, 4:2:2 and H.264 of 10 bit. How far a picture that is right in
// every pixel lies from itself then is what no recolour of footage can do better than.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LinearPlanes } from '../../packages/core/src/index.ts';
import { seededRandom } from '../../packages/core/src/testing/mattes.ts';
import { codesOf, grainInto } from '../generator/develop.ts';
import { cameraFile, encode } from '../generator/finish.ts';
import { SHOTS } from '../generator/shots.ts';
import { cameraPictures, STILL_SIZE, type Case } from './stills.ts';

/** The case's true pictures as its shot's camera would have brought them, with another grain than the source's. */
export async function throughCamera(of: Case): Promise<LinearPlanes[]> {
  const shot = SHOTS.find((s) => s.name === of.shot)!;
  const folder = mkdtempSync(join(tmpdir(), 'camera-'));
  function* pictures() {
    for (const [k, { truth }] of of.frames.entries()) {
      const codes = codesOf(truth);
      grainInto(codes, STILL_SIZE, shot.grain, seededRandom(shot.seed * 104_729 + k));
      yield new Uint8Array(Uint16Array.from(codes, (v) => Math.round(Math.min(Math.max(v, 0), 1) * 65535)).buffer);
    }
  }
  try {
    const file = join(folder, 'seen.mkv');
    await encode([...cameraFile(shot), '-g', '1'], file, pictures(), STILL_SIZE);
    return cameraPictures(file, [...of.frames.keys()]).map((source) => source.linear());
  } finally {
    rmSync(folder, { recursive: true });
  }
}
