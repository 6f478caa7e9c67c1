// When a video's frames come: evenly at a rate, or not.
import type { Media } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { refusedMedia, type ProbeInput } from './probed.ts';

function rateOf(text: string | undefined): Rate | undefined {
  const [num, den] = (text ?? '').split('/').map(Number);
  return num && den ? { num, den } : undefined;
}

/** Seconds of one tick of a time base "1/90000"; NaN where there is none. */
export function secondsOf(timeBase: string | undefined): number {
  const [num = NaN, den = NaN] = (timeBase ?? '').split('/').map(Number);
  return num / den;
}

/** A video whose frames do not come evenly; it can be taken in frame by frame, at `fps`. */
export class UnevenTiming extends Refused {
  readonly fps: number;
  constructor(name: string, why: string, fps: number) {
    const message = `“${name}” was not imported: ${why}`;
    super('refused-media', message, [{ path: name, message: why }]);
    this.fps = fps;
  }
}

type Rate = Media['fps'];
/** Rates that footage is shot and delivered at (SMPTE ST 2067-21 table 5 and its multiples). */
const STANDARD_RATES: readonly Rate[] = [
  { num: 24000, den: 1001 },
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30000, den: 1001 },
  { num: 30, den: 1 },
  { num: 48, den: 1 },
  { num: 50, den: 1 },
  { num: 60000, den: 1001 },
  { num: 60, den: 1 },
  { num: 100, den: 1 },
  { num: 120, den: 1 },
];
const perSecond = ({ num, den }: Rate): number => num / den;
/** The standard rate nearest to a mean rate, by ratio. */
export const nearestStandardRate = (mean: number): Rate =>
  STANDARD_RATES.reduce((best, each) =>
    Math.abs(Math.log(perSecond(each) / mean)) < Math.abs(Math.log(perSecond(best) / mean)) ? each : best,
  );

/**
 * Frames a second of timestamps in ticks: the slope of a straight line through them (least squares); NaN for fewer than
 * two.
 */
function meanRate(sorted: readonly number[], tick: number): number {
  const middle = (sorted.length - 1) / 2;
  const mean = sorted.reduce((sum, t) => sum + t, 0) / sorted.length;
  let [across, along] = [0, 0];
  sorted.forEach((t, i) => {
    across += (i - middle) * (t - mean);
    along += (i - middle) ** 2;
  });
  return along / (across * tick);
}

/** The rate at which frames come, and a note where they come unevenly and are taken one by one all the same. */
export function rateOfFrames(
  { name, startNumber, fps, timing }: Pick<ProbeInput, 'name' | 'startNumber' | 'fps' | 'timing'>,
  stream: { r_frame_rate?: string | undefined; time_base?: string | undefined },
  sorted: readonly number[],
): { rate: Rate; unevenly?: string } {
  if (startNumber !== null) return { rate: fps ?? { num: 24, den: 1 } };
  const stamped = rateOf(stream.r_frame_rate);
  const tick = secondsOf(stream.time_base);
  const uneven = stamped && unevenGap(sorted, tick, stamped);
  if (stamped && !uneven) return { rate: stamped };
  const mean = meanRate(sorted, tick);
  if (!Number.isFinite(mean)) throw refusedMedia(name, 'it names no frame rate.');
  const rate = nearestStandardRate(mean);
  const shown = `${+perSecond(rate).toFixed(3)} frames a second`;
  if (timing === 'frame by frame')
    return { rate, unevenly: `Its timestamps are uneven; every frame counts as one, at ${shown}.` };
  const why = uneven ?? 'it names no frame rate';
  throw new UnevenTiming(name, `${why}. It can be taken frame by frame, at ${shown}.`, perSecond(rate));
}

/**
 * Every gap between frames must be one frame, to the rounding of the container's clock (a tick either way); else says
 * which is not.
 */
function unevenGap(sorted: readonly number[], tick: number, rate: Rate): string | undefined {
  if (sorted.length < 3 || !(tick > 0)) return undefined;
  const ticks = rate.den / rate.num / tick;
  for (let i = 1; i < sorted.length; i++) {
    const gap = sorted[i]! - sorted[i - 1]!;
    if (Math.abs(gap - ticks) <= Math.max(1.01, ticks * 0.02)) continue;
    const [ms, wanted] = [(gap * tick * 1000).toFixed(2), (ticks * tick * 1000).toFixed(2)];
    return `its frame rate varies (frame ${i} comes after ${ms} ms instead of ${wanted} ms)`;
  }
  return undefined;
}
