// Both parts of a soft edge, solved in the kernels' memory.
import { SAMPLES, type Kernels } from '../kernels/module.ts';
import type { EdgeParts, Terms } from './edgeParts.ts';
import { waitingOf, type MixedBand } from './mixedBand.ts';

/** Mixed pixels for which the kernels' memory is made larger, to some 130 MB: it is never made smaller again. */
export const MOST_BY_KERNEL = 2 ** 20;

/** Where the planes of a band lie one after the other in the kernels' memory, each on a round address. */
function placed<Name extends string>(bytes: Readonly<Record<Name, number>>): Record<Name | 'end', number> {
  let end = SAMPLES;
  const at = { end } as Record<Name | 'end', number>;
  for (const name of Object.keys(bytes) as Name[]) {
    at[name] = end;
    end += (bytes[name] + 15) & ~15;
  }
  at.end = end;
  return at;
}

/** `partsByPlaces` of edgeParts.ts, to the bit. */
export function partsByKernel(
  own: Kernels,
  band: MixedBand,
  seen: Float32Array,
  terms: Terms,
  from?: EdgeParts,
): EdgeParts {
  const { mixed, alpha, next } = band;
  const { half, least, most, sweeps } = terms;
  const places = alpha.length;
  const words = (mixed >> 5) + 1;
  const ofPart = { turn: 4 * mixed, due: 4 * words, weights: 4 * places, waiting: 4 * mixed };
  const bytes = { alpha: 4 * places, next: 32 * mixed, seen: 16 * places, ...ofPart };
  const found = { order: 4 * mixed, piece: 16 * places, ground: 16 * places, ofPiece: 2 * mixed, ofGround: 2 * mixed };
  const at = placed({ ...bytes, ...found });
  const memory = own.samples(at.end);
  const words32 = new Uint32Array(memory.buffer);
  memory.set(alpha, at.alpha / 4);
  words32.set(new Uint32Array(next.buffer, next.byteOffset, next.length), at.next / 4);
  for (let p = 0, to = at.seen / 4; p < places; p++, to += 4) {
    memory[to] = seen[3 * p]!;
    memory[to + 1] = seen[3 * p + 1]!;
    memory[to + 2] = seen[3 * p + 2]!;
  }
  const stand = (ofPiece: boolean, part: number) =>
    own.standing(places, at.alpha, ofPiece ? 1 : 0, at.seen, at.weights, part);
  /** Floods a part, and gives how many places it has come to. */
  const flood = (ofPiece: boolean): number => {
    const [part, steps] = ofPiece ? [at.piece, at.ofPiece] : [at.ground, at.ofGround];
    const waiting = waitingOf(band, ofPiece);
    words32.set(waiting, at.waiting / 4);
    words32.fill(0, at.due / 4, at.due / 4 + words);
    new Uint16Array(memory.buffer, steps, mixed).fill(0);
    for (let w = 0; w < waiting.length; w++) words32[at.turn / 4 + waiting[w]!] = w;
    stand(ofPiece, part);
    const { next: neighbours, turn, due, weights, order } = at;
    return own.flood(mixed, words, neighbours, at.waiting, turn, due, weights, part, steps, order);
  };
  /** A part where it was. */
  const resume = (colours: Float32Array, known: Uint8Array, ofPiece: boolean) => {
    const part = ofPiece ? at.piece : at.ground;
    stand(ofPiece, part);
    for (let k = 0, to = part / 4; k < mixed; k++, to += 4) {
      memory[to] = colours[3 * k]!;
      memory[to + 1] = colours[3 * k + 1]!;
      memory[to + 2] = colours[3 * k + 2]!;
      memory[to + 3] = known[k]!;
    }
  };
  let reached = 0;
  if (from) {
    resume(from.piece, from.known, true);
    resume(from.ground, from.known, false);
  } else {
    // the piece's order is what is asked for
    flood(false);
    reached = flood(true);
  }
  // a fourth channel says whether the others are known
  const numbers = own.doubles([...half, 1, ...least, 0, ...most, 0]);
  for (let sweep = 0; sweep < sweeps; sweep++)
    own.relax(mixed, sweep, at.alpha, at.next, at.seen, at.piece, at.ground, numbers);
  const [ofPiece, ofGround] = [at.ofPiece, at.ofGround].map((from) => new Uint16Array(memory.buffer, from, mixed));
  const piece = new Float32Array(3 * mixed);
  const ground = new Float32Array(3 * mixed);
  const known = new Uint8Array(mixed);
  const steps = new Uint16Array(mixed);
  for (let k = 0, f = at.piece / 4, b = at.ground / 4; k < mixed; k++, f += 4, b += 4) {
    steps[k] = Math.max(ofPiece![k]!, ofGround![k]!);
    if (memory[f + 3] === 0 || memory[b + 3] === 0) continue;
    known[k] = 1;
    piece[3 * k] = memory[f]!;
    piece[3 * k + 1] = memory[f + 1]!;
    piece[3 * k + 2] = memory[f + 2]!;
    ground[3 * k] = memory[b]!;
    ground[3 * k + 1] = memory[b + 1]!;
    ground[3 * k + 2] = memory[b + 2]!;
  }
  if (from) return { ...from, piece, ground, known };
  return { piece, ground, known, order: words32.slice(at.order / 4, at.order / 4 + reached), steps };
}
