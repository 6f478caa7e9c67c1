// One POV-Ray pass, and what differs from pass to pass.
import { execFile } from 'node:child_process';
import { existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Size } from './develop.ts';
import { PAINTS, type DemoShot } from './shots.ts';

const run = promisify(execFile);
export const scenes = join(import.meta.dirname, 'scenes');

/** A piece really painted in a colour of `PAINTS`, for the ground truth of a recolour. */
export interface Paint {
  piece: string;
  colour: string;
}
/** What is rendered: one shot, into a folder, at a size, with pieces painted otherwise. */
export interface Rendering {
  shot: DemoShot;
  dir: string;
  size: Size;
  paints: readonly Paint[];
}

/** Radical inverse (van der Corput): an even spread of samples for any number of passes. */
function radicalInverse(index: number, base: number): number {
  let result = 0;
  for (let f = 1 / base, i = index; i > 0; i = Math.floor(i / base), f /= base) result += (i % base) * f;
  return result;
}

const sizeOf = ({ width, height }: Size) => [`+W${width}`, `+H${height}`];
const recordOf = ({ dir }: Rendering) => join(dir, 'radiosity.dat');
export const lightFile = (dir: string, frame: number, pass: number): string =>
  join(dir, `light-${String(frame).padStart(3, '0')}-${pass}.exr`);

/** Renders one picture; it appears under its name only when it is complete. */
export async function povray(
  { shot, dir, paints }: Rendering,
  out: string,
  declares: Record<string, number>,
  options: string[],
): Promise<void> {
  const part = out.replace(/(\.\w+)$/, '.part$1');
  const colour = paints.flatMap(({ piece, colour }) => {
    const rgb = PAINTS[piece]![colour]!;
    const name = piece[0]!.toUpperCase() + piece.slice(1);
    return [`Declare=${name}R=${rgb[0]}`, `Declare=${name}G=${rgb[1]}`, `Declare=${name}B=${rgb[2]}`];
  });
  const scene = [join(scenes, shot.scene), `+L${scenes}`, '-D', '+WT1', `+O${part}`, ...options];
  const declared = Object.entries(declares).map(([k, v]) => `Declare=${k}=${v}`);
  await run('nice', ['-n', '12', 'povray', ...scene, ...declared, ...colour], { maxBuffer: 1 << 26, cwd: dir });
  renameSync(part, out);
}

/** Where pixel, lens, shutter and lights are sampled on a pass of a frame. */
export function passOf(shot: DemoShot, frame: number, pass: number): Record<string, number> {
  const lensR = Math.sqrt(radicalInverse(pass + 1, 2));
  const lensT = 2 * Math.PI * (radicalInverse(pass + 1, 3) + frame * 0.618);
  return {
    Frame: frame + ((pass + 0.5) / shot.passes - 0.5) * shot.shutter,
    JitterX: radicalInverse(pass + 1, 2) - 0.5,
    JitterY: radicalInverse(pass + 1, 3) - 0.5,
    LensX: lensR * Math.cos(lensT),
    LensY: lensR * Math.sin(lensT),
    LightJit: frame * shot.passes + pass + 1,
  };
}

/** The light of one pass of a frame, as OpenEXR. */
export const lightPass = (rendering: Rendering, frame: number, pass: number): Promise<void> =>
  povray(rendering, lightFile(rendering.dir, frame, pass), passOf(rendering.shot, frame, pass), [
    ...sizeOf(rendering.size),
    '-A',
    '+FE',
    ...(rendering.shot.radiosity ? [`Radiosity_File_Name=${recordOf(rendering)}`, 'Radiosity_From_File=on'] : []),
  ]);

/**
 * One radiosity record from the shot's first, middle and last frame, read by all passes: no flicker, no repeated work.
 */
export async function recordRadiosity(rendering: Rendering): Promise<void> {
  const { shot, dir, size } = rendering;
  const record = recordOf(rendering);
  if (!shot.radiosity || existsSync(record)) return;
  const part = `${record}.part`;
  rmSync(part, { force: true });
  for (const frame of [0, Math.floor(shot.frames / 2), shot.frames - 1])
    await povray(rendering, join(dir, 'radiosity.exr'), { Frame: frame }, [
      ...sizeOf(size),
      '-A',
      '+FE',
      `Radiosity_File_Name=${part}`,
      'Radiosity_To_File=on',
      ...(existsSync(part) ? ['Radiosity_From_File=on'] : []),
    ]);
  renameSync(part, record);
}

/** Does tasks, `jobs` at a time, and says how far it is. */
export async function inParallel(name: string, tasks: readonly (() => Promise<void>)[], jobs: number): Promise<void> {
  console.log(`${name}: ${tasks.length} passes to render`);
  let next = 0;
  await Promise.all(
    Array.from({ length: jobs }, async () => {
      for (let task = tasks[next++]; task; task = tasks[next++]) {
        await task();
        if (next % 25 === 0) console.log(`${name}: ${next}/${tasks.length} at ${new Date().toISOString()}`);
      }
    }),
  );
}
