// Renders stills of the demo with its pieces really in other colours, for judging recolours, into demo/truth/recolour.
//   npm run demo:truth -- [--shot NAME] [--jobs N]
// Half the size of the shots. Work files stay in demo/work/recolour.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { scarfSource } from './cloth.ts';
import { developFrame } from './develop.ts';
import { cameraFile, encode } from './finish.ts';
import { inParallel, lightFile, lightPass, recordRadiosity, scenes, type Rendering } from './povray.ts';
import { PAINTS, SHOTS, TRUTH_FRAMES, TRUTH_SIZE, type DemoShot } from './shots.ts';
import { words } from '../../packages/server/src/media/words.ts';

const { values: args } = parseArgs({ options: { shot: { type: 'string' }, jobs: { type: 'string', default: '1' } } });
const out = join(import.meta.dirname, '../truth/recolour');
const work = join(import.meta.dirname, '../work/recolour');
/** Kept without loss that matters: 10 bit, 4:4:4, every frame by itself. */
const STILLS = words('-i - -vf format=gbrp10le -c:v libx264rgb -preset slow -crf 6 -g 1');

async function stills(shot: DemoShot, name: string, paints: Rendering['paints'], isGrainy: boolean): Promise<void> {
  const file = join(out, `${name}.mkv`);
  if (existsSync(file)) return;
  const dir = join(work, name);
  mkdirSync(dir, { recursive: true });
  const rendering: Rendering = { shot, dir, size: TRUTH_SIZE, paints };
  await recordRadiosity(rendering);
  const passes = TRUTH_FRAMES.flatMap((frame) =>
    Array.from({ length: shot.passes }, (_, pass) => ({ frame, pass })),
  ).filter(({ frame, pass }) => !existsSync(lightFile(dir, frame, pass)));
  await inParallel(
    name,
    passes.map(
      ({ frame, pass }) =>
        () =>
          lightPass(rendering, frame, pass),
    ),
    Number(args.jobs),
  );
  function* pictures(grain: number) {
    for (const frame of TRUTH_FRAMES) yield new Uint8Array(developFrame(shot, dir, frame, TRUTH_SIZE, grain).buffer);
  }
  // as it is: from the camera, with grain. Painted: the truth, without
  const asIs = [...cameraFile(shot), ...words('-g 1')];
  const truth = ['-pix_fmt', 'rgb48le', '-framerate', String(shot.fps), ...STILLS];
  await encode(isGrainy ? asIs : truth, file, pictures(isGrainy ? shot.grain : 0), TRUTH_SIZE);
}

mkdirSync(out, { recursive: true });
writeFileSync(join(scenes, 'scarf-mesh.inc'), scarfSource({ front: 0.4, back: 0.3, width: 0.34, seed: 1.3 }));
for (const shot of SHOTS.filter((s) => !args.shot || s.name === args.shot)) {
  await stills(shot, shot.name, [], true);
  for (const { name: piece } of shot.pieces)
    for (const colour of Object.keys(PAINTS[piece]!).slice(1))
      await stills(shot, `${shot.name}.${piece}.${colour.replace(' ', '-')}`, [{ piece, colour }], false);
}
