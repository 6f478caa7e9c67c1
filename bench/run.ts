// `npm run bench`: prints the rows of bench/README.md, says which bars are missed, and writes them into it. Needs
// ffmpeg; the rows of the browser and of renders need MELLOW_TEST_DATABASE_URL too: without it nothing is written.
// `npm run bench -- PART` prints a part alone. Each part runs in a process of its own and loads only what it needs:
// what one leaves on the heap and in the compiler must not weigh on the next.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { cpus, totalmem } from 'node:os';
import { writeRows } from './writeRows.ts';

/** A plain script, which has no types. */
const { serverEnv } = (await import(String(new URL('../scripts/serverEnv.mjs', import.meta.url)))) as {
  serverEnv: (env: NodeJS.ProcessEnv) => NodeJS.ProcessEnv;
};

const row = (work: string, ours: string, against = '', ratio = '', wanted = '') =>
  console.log(`| ${work} | ${ours} | ${against} | ${ratio} | ${wanted} |`);
const missed = (isMissed: boolean): string => (isMissed ? ' (missed)' : '');
const atMost = (value: number, bar: number, unit = ''): string => `≤ ${bar}${unit}${missed(value > bar)}`;
const PARTS: Record<string, () => Promise<void>> = {
  async core() {
    const { benchKeyAndRecolour } = await import('./core.ts');
    for (const { clip, oursMs, ffmpegMs, ratio } of benchKeyAndRecolour())
      row(
        `range key + recolour + blend, 1280×720, ${clip}, CPU`,
        `${oursMs.toFixed(1)} ms`,
        `ffmpeg hsvkey + huesaturation ${ffmpegMs.toFixed(1)} ms`,
        ratio.toFixed(2),
        atMost(ratio, clip === '16 bit' ? 0.3 : 0.25),
      );
  },
  async matte() {
    const { benchMattes } = await import('./matte.ts');
    for (const { work, ms, ratio, against } of benchMattes())
      row(
        `${work}, 1280×720`,
        `${ms.toFixed(1)} ms`,
        against,
        ratio?.toFixed(2),
        ratio !== undefined && /^(σ|\+)/.test(against ?? '') ? atMost(ratio, 1.2) : '',
      );
  },
  async beside() {
    const { benchBeside } = await import('./beside.ts');
    for (const { work, ms, thenMs, commit, wanted } of await benchBeside())
      row(
        `${work}, 1280×720, CPU`,
        `${ms.toFixed(1)} ms`,
        `commit ${commit} ${thenMs.toFixed(1)} ms`,
        (ms / thenMs).toFixed(2),
        atMost(ms / thenMs, wanted),
      );
  },
  async render() {
    const { benchColourways } = await import('./render.ts');
    const { togetherS, apartS, colourways } = await benchColourways();
    row(
      `render of 48 frames, 1280×720, two pieces, ${colourways} colourways, FFV1, read back`,
      `${togetherS.toFixed(1)} s`,
      `one after the other ${apartS.toFixed(1)} s`,
      (togetherS / apartS).toFixed(2),
    );
  },
  async hd() {
    const { benchHd } = await import('./hd.ts');
    const { ours, theirsS, peakMb } = await benchHd();
    for (const { name, cpuS, ratio } of ours)
      row(
        `render of 48 frames, 1920×1080, H.264, read back, ${name}, CPU`,
        `${cpuS.toFixed(1)} s`,
        `ffmpeg decode, hsvkey, huesaturation, the same encoder ${theirsS.toFixed(1)} s`,
        ratio.toFixed(2),
        atMost(ratio, name === 'key and shape' ? 0.8 : 1.2),
      );
    row(
      'memory of a 1080p render, 48 and 192 frames',
      peakMb.map((mb) => `${mb.toFixed(0)} MB`).join(' and '),
      '',
      (peakMb[1] / peakMb[0]).toFixed(2),
      `${atMost(Math.max(...peakMb), 600, ' MB')}, flat`,
    );
  },
  async browser() {
    const { benchBrowser } = await import('./browser.ts');
    const b = await benchBrowser();
    row(
      `control moved → picture, 960×540, ${b.moves} pictures`,
      `median ${b.medianMs.toFixed(0)} ms, 90 % ${b.p90Ms.toFixed(0)} ms`,
      '',
      '',
      `${atMost(b.medianMs, 25)}, 90 % ${atMost(b.p90Ms, 40)}`,
    );
    row(
      'a spline’s point dragged, 25 px feather, whole stack → picture, 960×540',
      `median ${b.spline.medianMs.toFixed(0)} ms, 90 % ${b.spline.p90Ms.toFixed(0)} ms`,
      '',
      '',
      atMost(b.spline.medianMs, 33),
    );
    for (const [what, ms] of [
      ['a control', b.ownMs.control],
      ['frames scrubbed', b.ownMs.scrub],
      ['a shape dragged', b.ownMs.shape],
    ] as const)
      row(`the page’s own scripts for a move of the pointer: ${what}`, `${ms.toFixed(1)} ms`, '', '', atMost(ms, 4));
    for (const [what, p, fps] of [
      ['key, shape, clean-up, recolour', b.plain, 24],
      ['the same on a track, steadied over 3 frames, with spill', b.everything, 12],
    ] as const)
      row(
        `playback, 960×540: ${what}`,
        `${p.againFps.toFixed(1)} fps once computed, ${p.firstFps.toFixed(1)} the first time round, ` +
          `${p.outOfTurn} frames left out`,
        'the shot’s 24 fps',
        '',
        `≥ ${fps}${missed(p.firstFps < fps)}, none left out${missed(p.outOfTurn > 0)}`,
      );
  },
  async opening() {
    const { benchOpening } = await import('./opening.ts');
    const { byAddress, fromList } = await benchOpening();
    for (const [how, seconds] of [
      ['by its address', byAddress],
      ['from the list', fromList],
    ] as const) {
      const median = seconds[Math.floor(seconds.length / 2)]!;
      row(
        `opening the demo ${how} → picture in hand, warm server, empty cache`,
        `median ${median.toFixed(2)} s, ${seconds[0]!.toFixed(2)} to ${seconds.at(-1)!.toFixed(2)}`,
        '',
        '',
        atMost(median, 1.5, ' s'),
      );
    }
  },
  async surfaces() {
    const { benchTrackingMore } = await import('./tracking.ts');
    const { speedMs, soft, followed } = benchTrackingMore();
    row(
      'tracked frame, 1280×720, region 400×400, 300 points, one core',
      `${speedMs.toFixed(0)} ms`,
      '',
      '',
      atMost(speedMs, 40, ' ms'),
    );
    const surfaces = [
      ...soft.map((s) => ({ ...s, name: `soft surface, 6 px wave: ${s.name}`, most: 1.3 })),
      ...followed.map((f) => ({ ...f, name: `followed shape against the demo’s truth: ${f.name}`, most: 1 })),
    ];
    for (const { name, mean, max, most } of surfaces) {
      const off = `${mean.toFixed(2)} mean, ${max.toFixed(2)} worst frame px`;
      row(name, off, '', '', atMost(mean, most, ' mean'));
    }
  },
  // tables of their own
  async shots() {
    const { benchShots } = await import('./shots.ts');
    console.log(
      '\n| the demo as finished, 960×540, a frame the first time round, ms | mattes | recolour | screen |\n' +
        '|---|---|---|---|',
    );
    benchShots(({ shot, pieces, matteMs, recolourMs, screenMs }) =>
      console.log(
        `| ${shot}, ${pieces === 1 ? 'one piece' : `${pieces} pieces`} | ${matteMs.toFixed(1)} | ` +
          `${recolourMs.toFixed(1)} | ${screenMs.toFixed(1)} |`,
      ),
    );
  },
  async carrying() {
    const { benchCarrying } = await import('./carrying.ts');
    console.log(
      '\n| carried from one frame, 640×360, 41 frames | IoU mean / least | certainty off by | ms a frame |\n' +
        '|---|---|---|---|',
    );
    benchCarrying(({ name, tuned, iou, certaintyOff, msPerFrame }) =>
      console.log(
        `| ${name}${tuned ? ' (tuned on)' : ''} | ${iou.mean.toFixed(3)} / ${iou.least.toFixed(3)} | ` +
          `${certaintyOff.toFixed(3)} | ${msPerFrame.toFixed(0)} |`,
      ),
    );
  },
  async tracking() {
    const { benchTracking } = await import('./tracking.ts');
    console.log(
      '\n| tracked, 640×480, 100 frames | ours: corner error mean / max px | frames, ms a frame | ' +
        'OpenCV flow + homography, chained: mean / max px | ms a frame |\n|---|---|---|---|---|',
    );
    const confidence = await benchTracking(({ name, ours, theirs }) =>
      row(
        name,
        `${ours.mean.toFixed(3)} / ${ours.max.toFixed(2)}`,
        `${ours.frames}${ours.stopped ? ` (${ours.stopped})` : ''}, ${ours.ms.toFixed(0)}`,
        `${theirs.mean.toFixed(2)} / ${theirs.max.toFixed(1)}`,
        theirs.ms.toFixed(0),
      ),
    );
    console.log('\n| confidence | frames | error mean / 95 % / max px |\n|---|---|---|');
    for (const c of confidence)
      console.log(
        `| ${c.range} | ${c.frames} | ` +
          `${c.frames === 0 ? '' : `${c.mean.toFixed(2)} / ${c.p95.toFixed(2)} / ${c.max.toFixed(2)}`} ` +
          `|`,
      );
  },
};

/** Whose process is a server's, and is begun as one. */
const SERVERS = ['render', 'hd'];
/** A part in a process of its own; gives what it prints, which is shown as it comes. */
async function apart(name: string): Promise<string> {
  const one = spawn(process.execPath, ['--import', 'tsx', import.meta.filename, name, 'here'], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: SERVERS.includes(name) ? serverEnv(process.env) : process.env,
  });
  let said = '';
  one.stdout.on('data', (text: Buffer) => {
    process.stdout.write(text);
    said += text.toString();
  });
  const [code] = (await once(one, 'close')) as [number | null];
  if (code !== 0) throw new Error(`${name} ended with ${code}: nothing is written.`);
  return said;
}

const [part, here] = process.argv.slice(2);
if (here) await PARTS[part!]!();
else if (part) await apart(part);
else {
  const memory = `${Math.round(totalmem() / 2 ** 30)} GB`;
  const machine = `${cpus().length} × ${cpus()[0]!.model}, ${memory}, Node ${process.version}`;
  console.log(machine);
  const isWhole = Boolean(process.env.MELLOW_TEST_DATABASE_URL);
  const rows: string[] = [];
  for (const name of Object.keys(PARTS)) {
    if (['browser', 'opening', 'render', 'hd'].includes(name) && !isWhole) continue;
    rows.push(await apart(name));
  }
  if (isWhole) writeRows(machine, rows.join(''));
}
