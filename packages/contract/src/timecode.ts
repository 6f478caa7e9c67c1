import type { Rate } from './media.ts';

const TIMECODE = /^(\d{2}):(\d{2}):(\d{2})([:;.])(\d{2})$/;

/** Rates at which timecode may drop numbers: 30 and 60 thousandths under. */
const dropsAt = ({ num, den }: Rate): boolean => den === 1001 && (num === 30_000 || num === 60_000);

/**
 * Frames since 00:00:00:00 of a timecode (SMPTE ST 12-1:2014); a `;` before the frames says that numbers are dropped.
 * Undefined for what is no timecode of this rate.
 */
export function framesOfTimecode(text: string, fps: Rate): number | undefined {
  const found = TIMECODE.exec(text);
  if (!found) return undefined;
  const [hours, minutes, seconds, frames] = [found[1], found[2], found[3], found[5]].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  const nominal = Math.round(fps.num / fps.den);
  if (minutes > 59 || seconds > 59 || frames >= nominal) return undefined;
  const all = ((hours * 60 + minutes) * 60 + seconds) * nominal + frames;
  if (found[4] === ':' || !dropsAt(fps)) return all;
  // ST 12-1, 9.3: two numbers (four at 60) are left out each minute, but for every tenth
  const each = nominal / 15;
  const past = hours * 60 + minutes;
  if (seconds === 0 && frames < each && minutes % 10 !== 0) return undefined;
  return all - each * (past - Math.floor(past / 10));
}

/** The timecode so many frames after another, of the same kind; wraps after 24 hours. */
export function timecodeAfter(text: string, fps: Rate, by: number): string | undefined {
  const start = framesOfTimecode(text, fps);
  const sign = TIMECODE.exec(text)?.[4];
  if (start === undefined || sign === undefined) return undefined;
  const nominal = Math.round(fps.num / fps.den);
  const drops = sign !== ':' && dropsAt(fps);
  const each = drops ? nominal / 15 : 0;
  const perTenMinutes = 600 * nominal - 9 * each;
  const day = 144 * perTenMinutes;
  let at = (((start + by) % day) + day) % day;
  if (drops) {
    const tens = Math.floor(at / perTenMinutes);
    const rest = at % perTenMinutes;
    const perMinute = 60 * nominal - each;
    at += each * (9 * tens + (rest < 60 * nominal ? 0 : 1 + Math.floor((rest - 60 * nominal) / perMinute)));
  }
  const two = (v: number) => String(v).padStart(2, '0');
  const seconds = Math.floor(at / nominal);
  const parts = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60].map(two);
  return `${parts.join(':')}${sign}${two(at % nominal)}`;
}
