// Renders the demo shots and their ground truth with POV-Ray (a Debian package) into demo/media and demo/truth.
//   npm run demo:render -- [--shot NAME] [--paint suitcase=marigold] [--jobs N]
// Work files stay in demo/work, so that an interrupted run goes on where it was.
import { existsSync, mkdirSync, renameSync, writeFileSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { scarfSource } from './cloth.ts';
import { finishShot } from './finish.ts';
import { inParallel, lightFile, lightPass, passOf, povray, recordRadiosity, scenes, type Rendering } from './povray.ts';
import { HEIGHT, PAINTS, SHOTS, WIDTH } from './shots.ts';

const here = import.meta.dirname;
const { values: args } = parseArgs({
  options: {
    shot: { type: 'string' },
    paint: { type: 'string', multiple: true },
    jobs: { type: 'string', default: '2' },
    'finish-only': { type: 'boolean' },
  },
});
const paints = (args.paint ?? []).map((entry) => {
  const [piece = '', colour = ''] = entry.split('=');
  if (!PAINTS[piece]?.[colour])
    throw new Error(
      `--paint ${entry}: known are ${JSON.stringify(PAINTS, (k, v: unknown) => (Array.isArray(v) ? k : v))}`,
    );
  return { piece, colour };
});
const variant = paints.map((p) => `-${p.piece}-${p.colour}`).join('');

interface Task {
  out: string;
  go: () => Promise<void>;
}
function tasksOf(rendering: Rendering): Task[] {
  const { shot, dir } = rendering;
  const tasks: Task[] = [];
  for (let frame = 0; frame < shot.frames; frame++) {
    const id = String(frame).padStart(3, '0');
    const truth = join(dir, `plane-${id}.txt`);
    tasks.push({
      out: truth,
      go: async () => {
        const still = join(dir, `truth-${id}.png`);
        await povray(rendering, still, { Frame: frame, Matte: 1, Truth: 1 }, ['+W16', '+H9', '+FN']);
        renameSync(join(dir, `plane-${id}.part`), truth);
      },
    });
    for (let pass = 0; pass < shot.passes; pass++) {
      tasks.push({ out: lightFile(dir, frame, pass), go: () => lightPass(rendering, frame, pass) });
      if (variant) continue;
      for (const piece of shot.pieces) {
        const matte = join(dir, `matte-${piece.name}-${id}-${pass}.png`);
        const declares = { ...passOf(shot, frame, pass), Matte: piece.matte };
        const options = [`+W${WIDTH}`, `+H${HEIGHT}`, '+AM2', '+A0.01', '+R3', '+FN8', 'File_Gamma=1.0'];
        tasks.push({ out: matte, go: () => povray(rendering, matte, declares, options) });
      }
    }
  }
  return tasks.filter((t) => !existsSync(t.out));
}

writeFileSync(join(scenes, 'scarf-mesh.inc'), scarfSource({ front: 0.4, back: 0.3, width: 0.34, seed: 1.3 }));
for (const shot of SHOTS.filter((s) => !args.shot || s.name === args.shot)) {
  const dir = join(here, '..', 'work', shot.name + variant);
  mkdirSync(dir, { recursive: true });
  if (!args['finish-only']) {
    const rendering: Rendering = { shot, dir, size: { width: WIDTH, height: HEIGHT }, paints };
    await recordRadiosity(rendering);
    const tasks = tasksOf(rendering).map((t) => t.go);
    await inParallel(shot.name + variant, tasks, Number(args.jobs));
  }
  await finishShot(shot, dir, variant);
  if (!variant) {
    const planes = Array.from({ length: shot.frames }, (_, f) =>
      readFileSync(join(dir, `plane-${String(f).padStart(3, '0')}.txt`), 'utf8')
        .trim()
        .split('\n')
        .map((l) => l.trim().split(/\s+/).map(Number)),
    );
    writeFileSync(
      join(here, '..', 'truth', `${shot.name}.plane.json`),
      JSON.stringify({
        what:
          `corners of a rectangle on the ${shot.surface} per frame (bottom left, bottom right, top ` +
          `left, top right), picture pixels, origin at the top-left corner`,
        frames: planes,
      }),
    );
  }
  console.log(`${shot.name}${variant}: done`);
}
