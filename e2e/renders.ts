// Renders of a made-up picture by the core alone, as short digests: what an engine makes of them can be compared with
// what another does.
import {
  compile,
  ENCODING_NAMES,
  frameMatte,
  makeTables,
  NEUTRAL_RECIPE,
  NO_CLEAN_UP,
  renderFrame,
  sourceFrame,
  steadiedMatte,
  type CodePicture,
  type CodePlane,
  type Encoding,
  type Layer,
  type SightingRender,
} from '../packages/core/src/index.ts';

const [W, H] = [203, 118];
const PLAIN = { on: true, invert: false, strength: 1 } as const;
const hue = { on: true, lo: 330, hi: 440, softLo: 20, softHi: 30 };
const chroma = { on: true, lo: 0.03, hi: 0.4, softLo: 0.02, softHi: 0.02 };
const lightness = { on: true, lo: 0.1, hi: 0.95, softLo: 0.08, softHi: 0.05 };
const KEY: Layer = {
  ...PLAIN,
  id: 'k',
  name: 'K',
  mode: 'add',
  kind: 'range',
  picks: [],
  key: { hue, chroma, lightness },
};
const SHAPE: Layer = {
  ...PLAIN,
  id: 's',
  name: 'S',
  mode: 'within',
  kind: 'shape',
  geometry: { form: 'ellipse', cx: 96.3, cy: 57.8, width: 120, height: 80, turnDeg: 23 },
  feather: { innerPx: 3, outerPx: 7, falloff: 'smooth' },
};
const CLEAN_UP = { ...NO_CLEAN_UP, quietPx: 2, islandsPx: 9, holesPx: 12, edgePx: 0.7, softenPx: 1.3, fitEdge: 0.1 };
const SPILL = { mode: 'remove', reachPx: 9, amount: 1, tolerance: 0.06 } as const;
const shift = { exposureStops: 0.2, hueDeg: 140, saturation: 1.3, density: 0.2 };
const SIGHTINGS: Record<string, SightingRender> = {
  plain: { layers: [KEY, SHAPE], program: compile({ ...NEUTRAL_RECIPE, shift }) },
  'with clean-up and spill': {
    layers: [KEY, SHAPE],
    cleanUp: CLEAN_UP,
    spill: SPILL,
    program: compile({ ...NEUTRAL_RECIPE, shift, strength: 0.8 }),
  },
};

const SAMPLES = { bytes: [Uint8Array, 255], words: [Uint16Array, 65_535], floats: [Float32Array, 1] } as const;
type Samples = keyof typeof SAMPLES;

/** A red ball on a grey ground with grain, `t` pixels on its way. */
function picture(samples: Samples, t: number): CodePicture {
  let state = 12_345;
  const grain = () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return state / 2 ** 32 - 0.5;
  };
  const [Plane, most] = SAMPLES[samples];
  const plane = (ball: number, ground: number): CodePlane => {
    const out = new Plane(W * H);
    for (let i = 0; i < out.length; i++) {
      const off = Math.hypot((i % W) - 90 - t, Math.floor(i / W) - 60) / 45;
      const light = off < 1 ? ball * (1.1 - off * off * 0.7) : ground;
      out[i] = Math.min(Math.max(light + 0.06 * grain(), 0), 1) * most;
    }
    return out;
  };
  return { width: W, height: H, r: plane(0.75, 0.4), g: plane(0.22, 0.42), b: plane(0.2, 0.45) };
}

/** FNV-1a of planes' bytes (G. Fowler, L. C. Noll, K.-P. Vo), 32 bits. */
function digestOf(...planes: ArrayBufferView[]): string {
  let hash = 0x811c9dc5;
  for (const { buffer, byteOffset, byteLength } of planes)
    for (const byte of new Uint8Array(buffer, byteOffset, byteLength)) hash = Math.imul(hash ^ byte, 0x01000193);
  return (hash >>> 0).toString(16);
}

/** A digest of each render, by what it is of. */
export function renders(): Record<string, string> {
  const tables = makeTables();
  const found: Record<string, string> = {};
  const of = (encoding: Encoding, samples: Samples) => {
    const at = (t: number) => sourceFrame(picture(samples, t), encoding, 0.75, tables);
    for (const [name, sighting] of Object.entries(SIGHTINGS)) {
      const [source, before, after] = [at(0), at(-2), at(2)];
      const around = [before, after].map((near) => ({ source: near, sighting }));
      for (const [how, matte] of [
        ['', frameMatte(source, sighting.layers, sighting.cleanUp)],
        [', steadied', steadiedMatte(source, { ...sighting, steadyFrames: 1 }, around)],
      ] as const) {
        const { codes, spills } = renderFrame(source, [sighting], tables, () => matte);
        const share = spills[0]?.share ?? new Float32Array(0);
        found[`${encoding}, ${samples}, ${name}${how}`] = digestOf(codes.r, codes.g, codes.b, matte, share);
      }
    }
  };
  for (const encoding of ENCODING_NAMES) of(encoding, 'words');
  of('rec709', 'bytes');
  of('linear709', 'floats');
  return found;
}
