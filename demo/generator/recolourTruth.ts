// Renders stills of the demo with its pieces really in other colours, for judging recolours, into demo/truth/recolour.
//   npm run demo:truth -- [--shot NAME] [--jobs N]
// Half the size of the shots. Work files stay in demo/work/recolour.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { scarfSource } from './cloth.ts';
import { developFrame, LENS_SOFTNESS, soften } from './develop.ts';
import { cameraFile, encode, readGrey } from './finish.ts';
import { inParallel, lightFile, lightPass, passOf, povray, recordRadiosity, scenes, type Rendering } from './povray.ts';
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

/** What of each pixel of the stills is the piece: sampled where their light is and no finer, through the same lens. */
async function mattes(shot: DemoShot, piece: DemoShot['pieces'][number]): Promise<void> {
  const file = join(out, `${shot.name}.${piece.name}.matte.mkv`);
  if (existsSync(file)) return;
  const dir = join(work, `${shot.name}.${piece.name}.matte`);
  mkdirSync(dir, { recursive: true });
  const { width, height } = TRUTH_SIZE;
  const passes = Array.from({ length: shot.passes }, (_, pass) => pass);
  const fileOf = (frame: number, pass: number) => join(dir, `${frame}-${pass}.png`);
  const options = [`+W${width}`, `+H${height}`, '-A', '+FN8', 'File_Gamma=1.0'];
  const render = (frame: number, pass: number) => () =>
    povray(
      { shot, dir, size: TRUTH_SIZE, paints: [] },
      fileOf(frame, pass),
      { ...passOf(shot, frame, pass), Matte: piece.matte },
      options,
    );
  const tasks = TRUTH_FRAMES.flatMap((frame) => passes.map((pass) => render(frame, pass)));
  await inParallel(`${shot.name} ${piece.name} matte`, tasks, Number(args.jobs));
  function* pictures() {
    for (const frame of TRUTH_FRAMES) {
      const all = passes.map((pass) => readGrey(fileOf(frame, pass), width * height));
      const mean = Float32Array.from(all[0]!, (_, i) => all.reduce((sum, grey) => sum + grey[i]!, 0) / all.length);
      const seen = soften(mean, TRUTH_SIZE, LENS_SOFTNESS);
      yield new Uint8Array(Uint16Array.from(seen, (v) => Math.round(v * 257)).buffer);
    }
  }
  const grey = words('-pix_fmt gray16le -framerate 24 -i - -c:v ffv1 -level 3 -g 1');
  await encode(grey, file, pictures(), TRUTH_SIZE);
}

mkdirSync(out, { recursive: true });
writeFileSync(join(scenes, 'scarf-mesh.inc'), scarfSource({ front: 0.4, back: 0.3, width: 0.34, seed: 1.3 }));
for (const shot of SHOTS.filter((s) => !args.shot || s.name === args.shot)) {
  await stills(shot, shot.name, [], true);
  for (const piece of shot.pieces) {
    await mattes(shot, piece);
    for (const colour of Object.keys(PAINTS[piece.name]!).slice(1)) {
      const paints = [{ piece: piece.name, colour }];
      await stills(shot, `${shot.name}.${piece.name}.${colour.replace(' ', '-')}`, paints, false);
    }
  }
}
