// Renders the demo shots and their ground truth with POV-Ray (a Debian package) into demo/media and demo/truth.
//   npm run demo:render -- [--shot NAME] [--paint suitcase=marigold] [--jobs N]
// Work files stay in demo/work, so that an interrupted run goes on where it was.
import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, renameSync, rmSync, writeFileSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import { scarfSource } from './cloth.ts';
import { finishShot } from './finish.ts';
import { HEIGHT, PAINTS, SHOTS, WIDTH, type DemoShot } from './shots.ts';

const run = promisify(execFile);
const here = import.meta.dirname;
const scenes = join(here, 'scenes');
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
  const rgb = PAINTS[piece]?.[colour];
  if (!rgb)
    throw new Error(
      `--paint ${entry}: known are ${JSON.stringify(PAINTS, (k, v: unknown) => (Array.isArray(v) ? k : v))}`,
    );
  return { piece, colour, rgb };
});
const variant = paints.map((p) => `-${p.piece}-${p.colour}`).join('');
const workOf = (shot: DemoShot) => join(here, '..', 'work', shot.name + variant);

/** Radical inverse (van der Corput): an even spread of samples for any number of passes. */
function radicalInverse(index: number, base: number): number {
  let result = 0;
  for (let f = 1 / base, i = index; i > 0; i = Math.floor(i / base), f /= base) result += (i % base) * f;
  return result;
}

async function povray(shot: DemoShot, out: string, declares: Record<string, number>, options: string[]): Promise<void> {
  const part = out.replace(/(\.\w+)$/, '.part$1');
  const colour = paints.flatMap(({ piece, rgb }) => {
    const name = piece[0]!.toUpperCase() + piece.slice(1);
    return [`Declare=${name}R=${rgb[0]}`, `Declare=${name}G=${rgb[1]}`, `Declare=${name}B=${rgb[2]}`];
  });
  await run(
    'nice',
    [
      '-n',
      '12',
      'povray',
      join(scenes, shot.scene),
      `+L${scenes}`,
      '-D',
      '+WT1',
      `+O${part}`,
      ...options,
      ...Object.entries(declares).map(([k, v]) => `Declare=${k}=${v}`),
      ...colour,
    ],
    { maxBuffer: 1 << 26, cwd: workOf(shot) },
  );
  renameSync(part, out);
}

interface Task {
  out: string;
  go: () => Promise<void>;
}
function tasksOf(shot: DemoShot): Task[] {
  const dir = workOf(shot);
  const size = [`+W${WIDTH}`, `+H${HEIGHT}`];
  const tasks: Task[] = [];
  for (let frame = 0; frame < shot.frames; frame++) {
    const id = String(frame).padStart(3, '0');
    const truth = join(dir, `plane-${id}.txt`);
    tasks.push({
      out: truth,
      go: async () => {
        await povray(shot, join(dir, `truth-${id}.png`), { Frame: frame, Matte: 1, Truth: 1 }, ['+W16', '+H9', '+FN']);
        renameSync(join(dir, `plane-${id}.part`), truth);
      },
    });
    for (let pass = 0; pass < shot.passes; pass++) {
      const k = frame * shot.passes + pass + 1;
      const lensR = Math.sqrt(radicalInverse(pass + 1, 2));
      const lensT = 2 * Math.PI * (radicalInverse(pass + 1, 3) + frame * 0.618);
      const declares = {
        Frame: frame + ((pass + 0.5) / shot.passes - 0.5) * shot.shutter,
        JitterX: radicalInverse(pass + 1, 2) - 0.5,
        JitterY: radicalInverse(pass + 1, 3) - 0.5,
        LensX: lensR * Math.cos(lensT),
        LensY: lensR * Math.sin(lensT),
        LightJit: k,
      };
      const light = join(dir, `light-${id}-${pass}.exr`);
      tasks.push({
        out: light,
        go: () =>
          povray(shot, light, declares, [
            ...size,
            '-A',
            '+FE',
            ...(shot.radiosity ? [`Radiosity_File_Name=${join(dir, 'radiosity.dat')}`, 'Radiosity_From_File=on'] : []),
          ]),
      });
      if (!variant)
        for (const piece of shot.pieces) {
          const matte = join(dir, `matte-${piece.name}-${id}-${pass}.png`);
          tasks.push({
            out: matte,
            go: () =>
              povray(shot, matte, { ...declares, Matte: piece.matte }, [
                ...size,
                '+AM2',
                '+A0.01',
                '+R3',
                '+FN8',
                'File_Gamma=1.0',
              ]),
          });
        }
    }
  }
  return tasks.filter((t) => !existsSync(t.out));
}

/**
 * One radiosity record from the shot's first, middle and last frame, read by all passes: no flicker, no repeated work.
 */
async function recordRadiosity(shot: DemoShot): Promise<void> {
  const dir = workOf(shot);
  const record = join(dir, 'radiosity.dat');
  if (existsSync(record)) return;
  const part = `${record}.part`;
  rmSync(part, { force: true });
  for (const frame of [0, Math.floor(shot.frames / 2), shot.frames - 1])
    await povray(shot, join(dir, 'radiosity.exr'), { Frame: frame }, [
      `+W${WIDTH}`,
      `+H${HEIGHT}`,
      '-A',
      '+FE',
      `Radiosity_File_Name=${part}`,
      'Radiosity_To_File=on',
      ...(existsSync(part) ? ['Radiosity_From_File=on'] : []),
    ]);
  renameSync(part, record);
}

writeFileSync(join(scenes, 'scarf-mesh.inc'), scarfSource({ front: 0.4, back: 0.3, width: 0.34, seed: 1.3 }));
for (const shot of SHOTS.filter((s) => !args.shot || s.name === args.shot)) {
  const dir = workOf(shot);
  mkdirSync(dir, { recursive: true });
  if (!args['finish-only']) {
    if (shot.radiosity) await recordRadiosity(shot);
    const tasks = tasksOf(shot);
    console.log(`${shot.name}${variant}: ${tasks.length} passes to render`);
    let next = 0;
    await Promise.all(
      Array.from({ length: Number(args.jobs) }, async () => {
        for (let task = tasks[next++]; task; task = tasks[next++]) {
          await task.go();
          if (next % 25 === 0) console.log(`${shot.name}: ${next}/${tasks.length} at ${new Date().toISOString()}`);
        }
      }),
    );
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
