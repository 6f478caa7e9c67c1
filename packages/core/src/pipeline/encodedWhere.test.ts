// Light encoded by the kernels against the reference, pixel by pixel.
import { expect, it } from 'vitest';
import { ENCODINGS, type Encoding } from '../colour/encoding.ts';
import { gatheredLight } from '../colour/planes.ts';
import { seededRandom } from '../track/random.ts';
import { encodePixelsInto } from './encodeBlock.ts';
import { encodedWhere } from './encodedWhere.ts';
import { makeTables } from './sourceFrame.ts';

const tables = makeTables();
/** No number, no end, and what lies outside of what is tabulated. */
const ODD = [NaN, Infinity, -Infinity, 0, -0, 1, -0.3, 1e-9, 4, 70000];

/** A picture of two blocks and a part of one, and light of which some is no colour. */
function scene(Plane: typeof Uint8Array | typeof Uint16Array, share: number) {
  const [width, height] = [127, 71];
  const random = seededRandom(17);
  const most = Plane === Uint8Array ? 256 : 65536;
  const code = () => {
    const plane = new Plane(width * height);
    for (let i = 0; i < plane.length; i++) plane[i] = random() * most;
    return plane;
  };
  const light = () =>
    Float32Array.from({ length: width * height }, () =>
      random() < 0.05 ? ODD[Math.floor(random() * ODD.length)]! : random() ** 3,
    );
  const all = Uint32Array.from({ length: width * height }, (_, i) => i);
  return {
    codes: { width, height, r: code(), g: code(), b: code() },
    linear: { r: light(), g: light(), b: light() },
    touched: all.filter(() => random() < share),
  };
}
const BOTH = [Uint8Array, Uint16Array] as const;
const cases = (Object.keys(ENCODINGS) as Encoding[]).flatMap((encoding) =>
  BOTH.map((Plane) => [encoding, 8 * Plane.BYTES_PER_ELEMENT, Plane] as const),
);

it.each(cases)('is the same to the bit: %s of %i bits', (encoding, _bits, Plane) => {
  for (const share of [0, 0.002, 0.4, 1]) {
    const { codes, linear, touched } = scene(Plane, share);
    const found = encodedWhere(codes, linear, touched, encoding, tables);
    const reference = { ...codes, r: codes.r.slice(), g: codes.g.slice(), b: codes.b.slice() };
    const encoder = { encoding, encode: tables.encode(encoding) };
    encodePixelsInto(reference, touched, gatheredLight(linear, touched), encoder);
    expect(found).toEqual(reference);
  }
});
it('encodes floats, which the kernels do not take, and leaves them as they are where nothing touched them', () => {
  const plane = Float32Array.of(0.25, -3, 0.5, 2);
  const linear = { r: plane.map(() => 1), g: plane.map(() => 1), b: plane.map(() => 1) };
  const picture = { width: 4, height: 1, r: plane, g: plane, b: plane };
  const { r } = encodedWhere(picture, linear, Uint32Array.of(1, 3), 'srgb', tables);
  expect([...r]).toEqual([0.25, expect.closeTo(1, 5), 0.5, expect.closeTo(1, 5)]);
});
