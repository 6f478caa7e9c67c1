import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { floatFromHalf, halfFromFloat } from '../colour/halfFloat.ts';
import { clfText } from './clf.ts';
import { clfAt } from './clfSteps.ts';
import { CubeError, cubeOf } from './cube.ts';
import { readClf } from './readClf.ts';
import { readTable } from './readTable.ts';

const F = 'inBitDepth="32f" outBitDepth="32f"';
const list = (steps: string) => `<?xml version="1.0" encoding="UTF-8"?>
<ProcessList id="t" name="Evening" compCLFversion="3.0">
<Description>by hand</Description>
${steps}
</ProcessList>`;
const through = (steps: string, codes: readonly number[]): number[] => {
  const rgb = Float64Array.from(codes);
  clfAt(readClf(list(steps)))(rgb);
  return [...rgb];
};

// what `ociochecklut` of OpenColorIO 2.1.2 prints for these texts: of 0.1 0.5 0.9, and of −0.2 0.02 1.3
it.each([
  [
    'matrix with offsets, of 10 bits',
    `<Matrix inBitDepth="10i" outBitDepth="16f">` +
      `<Array dim="3 4">0.0008 0.0001 0.00005 0.02 0.0001 0.0007 0.0002 -0.01 0 0.0001 0.0009 0.005</Array>` +
      `</Matrix>`,
    [0.199025, 0.54242, 0.88478],
    [-0.075139, 0.249842, 1.203956],
  ],
  [
    'table of one channel, of 8 bits',
    `<LUT1D inBitDepth="32f" outBitDepth="8i"><Array dim="4 1">0 40 180 255</Array></LUT1D>`,
    [0.04705883, 0.4313726, 0.9117646],
    [0.0, 0.009411767, 1.0],
  ],
  [
    'table of three channels',
    `<LUT1D ${F} interpolation="linear"><Array dim="3 3">0 0 0.1 0.4 0.6 0.5 1 0.9 0.8</Array>` + `</LUT1D>`,
    [0.07999998, 0.6, 0.74],
    [0.0, 0.02399999, 0.8],
  ],
  [
    'cube, linear on each axis',
    `<LUT3D ${F} interpolation="trilinear">` +
      `<Array dim="2 2 2 3">0 0 0 0.1 0 0.9 0 0.8 0.1 0.1 0.3 1 0.9 0.1 0 1 0.1 0.2 0.7 0.9 0 1 0.4 0.9</Array>` +
      `</LUT3D>`,
    [0.179, 0.185, 0.8235],
    [0.1, 0.006, 0.902],
  ],
  [
    'cube that states nothing',
    `<LUT3D ${F}>` +
      `<Array dim="2 2 2 3">0 0 0 0.1 0 0.9 0 0.8 0.1 0.1 0.3 1 0.9 0.1 0 1 0.1 0.2 0.7 0.9 0 1 0.4 0.9</Array>` +
      `</LUT3D>`,
    [0.18, 0.16, 0.85],
    [0.1, 0.006, 0.902],
  ],
  [
    'range',
    `<Range inBitDepth="10i" outBitDepth="10i"><minInValue>64</minInValue>` +
      `<maxInValue>940</maxInValue><minOutValue>0</minOutValue><maxOutValue>1023</maxOutValue></Range>`,
    [0.04372146, 0.5108447, 0.9779679],
    [0.0, 0.0, 1.0],
  ],
  [
    'range that does not clamp',
    `<Range ${F} style="noClamp"><minInValue>0.2</minInValue><maxInValue>0.6</maxInValue>` +
      `<minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>`,
    [-0.25, 0.75, 1.75],
    [-1.0, -0.45, 2.75],
  ],
  ['logarithm to base 10', `<Log ${F} style="log10"/>`, [-1.0, -0.30103, -0.0457575], [-37.92978, -1.69897, 0.1139433]],
  [
    'logarithm of light',
    `<Log ${F} style="linToLog">` +
      `<LogParams base="10" linSideSlope="0.9" linSideOffset="0.05" logSideSlope="0.3" logSideOffset="0.6"/>` +
      `</Log>`,
    [0.3438384, 0.509691, 0.5803496],
    [-10.77893, 0.2497527, 0.625908],
  ],
  [
    'logarithm taken back',
    `<Log ${F} style="logToLin">` +
      `<LogParams base="2" linSideSlope="1.1" linSideOffset="0.01" logSideSlope="0.2" logSideOffset="0.5"/>` +
      `</Log>`,
    [0.2181818, 0.9, 3.627272],
    [0.07126213, 0.1631496, 14.53636],
  ],
  [
    'camera curve',
    `<Log ${F} style="cameraLinToLog">` +
      `` +
      `<LogParams base="10" linSideSlope="5.5" ` +
      `linSideOffset="0.05" logSideSlope="0.25" logSideOffset="0.38" linSideBreak="0.15"/>` +
      `</Log>`,
    [0.3313788, 0.4917895, 0.5547425],
    [0.12664, 0.2767818, 0.5943331],
  ],
  [
    'camera curve taken back',
    `<Log ${F} style="cameraLogToLin">` +
      `` +
      `<LogParams base="10" linSideSlope="5.5" ` +
      `linSideOffset="0.05" logSideSlope="0.25" logSideOffset="0.38" linSideBreak="0.01" linearSlope="5.4"/>` +
      `</Log>`,
    [0.003463459, 0.5399912, 21.85026],
    [-0.05209209, -0.01135136, 870.2269],
  ],
  [
    'power',
    `<Exponent ${F} style="basicFwd"><ExponentParams exponent="2.4"/></Exponent>`,
    [0.003981071, 0.1894646, 0.7765725],
    [0.0, 8.365113e-5, 1.876999],
  ],
  [
    'power, mirrored, of one channel',
    `<Exponent ${F} style="basicMirrorRev"><ExponentParams exponent="2.2"/>` +
      `<ExponentParams exponent="1.4" channel="G"/></Exponent>`,
    [0.3511192, 0.6095068, 0.9532375],
    [-0.4811565, 0.06115753, 1.126659],
  ],
  [
    'power that keeps what is below 0',
    `<Exponent ${F} style="basicPassThruFwd"><ExponentParams exponent="1.8"/></Exponent>`,
    [0.01584893, 0.2871746, 0.8272495],
    [-0.2, 0.0008746898, 1.603607],
  ],
  [
    'power with a straight part',
    `<Exponent ${F} style="monCurveFwd"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>`,
    [0.01002282, 0.2140411, 0.7874122],
    [-0.01547603, 0.001547603, 1.823259],
  ],
  [
    'power with a straight part, taken back',
    `<Exponent ${F} style="monCurveRev"><ExponentParams exponent="3" offset="0.16"/></Exponent>`,
    [0.3784243, 0.7606926, 0.9599677],
    [-1.806593, 0.1548724, 1.106016],
  ],
  [
    'CDL',
    `<ASC_CDL ${F} style="Fwd"><SOPNode><Slope>1.2 0.9 1.1</Slope><Offset>0.03 -0.05 0.01</Offset>` +
      `<Power>1.3 0.8 1</Power></SOPNode><SatNode><Saturation>0.7</Saturation></SatNode></ASC_CDL>`,
    [0.1895919, 0.4664752, 0.8301604],
    [0.02166, 0.02166, 0.72166],
  ],
  [
    'CDL taken back',
    `<ASC_CDL ${F} style="Rev"><SOPNode><Slope>1.2 0.9 1.1</Slope><Offset>0.03 -0.05 0.01</Offset>` +
      `<Power>1.3 0.8 1</Power></SOPNode><SatNode><Saturation>0.7</Saturation></SatNode></ASC_CDL>`,
    [0.0, 0.5509974, 0.9],
    [0.0, 0.05555556, 0.9],
  ],
  [
    'CDL that does not clamp',
    `<ASC_CDL ${F} style="FwdNoClamp"><SOPNode><Slope>1.5 0.9 1.1</Slope>` +
      `<Offset>-0.4 0.3 0.01</Offset><Power>1.3 0.8 1</Power></SOPNode><SatNode>` +
      `<Saturation>1.4</Saturation></SatNode></ASC_CDL>`,
    [-0.584887, 0.8772979, 1.165113],
    [-1.07646, 0.4633875, 1.91954],
  ],
  [
    'several steps',
    `<Matrix ${F}><Array dim="3 3">0.8 0.1 0.1 0.1 0.8 0.1 0 0.1 0.9</Array></Matrix>` +
      `<Exponent ${F} style="basicFwd"><ExponentParams exponent="0.45"/></Exponent><Range ${F}>` +
      `<maxInValue>0.8</maxInValue><maxOutValue>0.8</maxOutValue></Range>`,
    [0.5059298, 0.7320428, 0.8],
    [0.0, 0.3937012, 0.8],
  ],
] as [string, string, number[], number[]][])(
  'a %s does what OpenColorIO makes of it',
  (_name, steps, first, second) => {
    for (const [codes, wanted] of [
      [[0.1, 0.5, 0.9], first],
      [[-0.2, 0.02, 1.3], second],
    ] as const)
      through(steps, codes).forEach((v, c) => {
        const due = wanted[c]!;
        // the program works in floats of 32 bits and prints seven figures
        expect(Math.abs(v - due)).toBeLessThanOrEqual(2e-5 * Math.max(Math.abs(due), 0.1));
      });
  },
);

/** A curve over every half float there is, those past all numbers among them. */
const overHalfs = (channels: 1 | 3, attributes: string, entry: (v: number) => string): string => {
  const curve = (v: number) => (Number.isNaN(v) ? v : (Math.sign(v) * Math.log2(1 + 3 * Math.abs(v))) / 4);
  const entries = Array.from({ length: 65536 }, (_, half) => entry(curve(floatFromHalf(half))));
  const array = `<Array dim="65536 ${channels}">${entries.join('\n')}</Array>`;
  return `<LUT1D inBitDepth="16f" outBitDepth="16f" halfDomain="true"${attributes}>${array}</LUT1D>`;
};
const TABLES_OVER_HALFS = {
  'of one channel': overHalfs(1, '', (v) => String(v).replace('Infinity', 'inf')),
  'as bits of half floats': overHalfs(1, ' rawHalfs="true"', (v) => String(halfFromFloat(v))),
  'of three channels': overHalfs(3, '', (v) => (Number.isFinite(v) ? `${v} ${v / 2} ${1 - v}` : '4 4 4')),
};
// what `ociochecklut` of OpenColorIO 2.1.2 prints for such tables
it.each([
  ['of one channel', [0.1, 0.5, 0.9], [0.0946279, 0.330482, 0.4718813]],
  ['of one channel', [-0.2, 0.02, 1.3], [-0.169518, 0.02101607, 0.5731954]],
  ['of one channel', [0.00001, 12.34, 300.7], [1.082005e-5, 1.312172, 2.454685]],
  ['of one channel', [0.33337, 65504, 70000], [0.2500198, 4.396066, 4.396066]],
  ['as bits of half floats', [-0.2, 0.02, 1.3], [-0.1694824, 0.02102234, 0.5732422]],
  ['as bits of half floats', [0.00001, 12.34, 70000], [1.083446e-5, 1.3125, 4.394531]],
  ['of three channels', [0.00001, 12.34, 300.7], [1.082005e-5, 0.6560858, -1.454686]],
] as const)('a table over half floats, %s, of %j', (name, codes, expected) => {
  through(TABLES_OVER_HALFS[name], codes).forEach((v, c) =>
    expect(Math.abs(v / expected[c]! - 1), `channel ${c}`).toBeLessThan(2e-6),
  );
});

describe('the text of a process', () => {
  const step = `<Matrix ${F}><Array dim="3 3">2 0 0 0 2 0 0 0 2</Array></Matrix>`;
  it('is told from the other format by its beginning, and keeps its name', () => {
    expect(readTable(`\uFEFF${list(step)}`)).toMatchObject({ kind: 'CLF', title: 'Evening' });
    expect(readTable('LUT_1D_SIZE 2\n0 0 0\n1 1 1').kind).toBe('1D');
  });
  it('that we wrote is read as the table it was', () => {
    const bent = cubeOf('Bent', 4, (rgb) => (rgb[0] = rgb[0]! * rgb[1]! + 0.1 * rgb[2]!));
    const { steps } = readClf(clfText(bent, 'x'));
    const table = (steps[0] as Extract<(typeof steps)[number], { op: 'table' }>).table;
    expect(table.isTrilinear).toBe(false);
    table.values.forEach((v, i) => expect(Math.abs(v - bent.values[i]!)).toBeLessThan(1e-6));
  });
  it('may pass steps by, and takes what is no number for 0', () => {
    expect(through(step.replace('<Matrix', '<Matrix bypass="true"'), [0.1, 0.2, 0.3])).toEqual([0.1, 0.2, 0.3]);
    expect(through(step, [NaN, 0.2, 0.3])).toEqual([0, 0.4, 0.6]);
  });
  it.each([
    ['<Blur/>', 'Line 4: the operator “Blur” is not known.'],
    [`<Matrix ${F}/>`, 'Line 4: Matrix has no Array.'],
    [`<Matrix ${F}><Array dim="3 3">1 2</Array></Matrix>`, 'Line 4: Array must be 9 numbers, not 2.'],
    [`<Matrix ${F}><Array dim="2 2">1 0 0 1</Array></Matrix>`, 'three rows of three or four'],
    ['<Matrix inBitDepth="9i" outBitDepth="32f"><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>', '“9i”'],
    [
      `<LUT1D ${F} halfDomain="true"><Array dim="2 1">0 1</Array></LUT1D>`,
      'Line 4: the Array of a LUT1D with halfDomain has 65536 entries, not 2',
    ],
    [
      `<LUT1D ${F} halfDomain="perhaps"><Array dim="2 1">0 1</Array></LUT1D>`,
      'halfDomain “perhaps” of LUT1D is not known',
    ],
    [`<LUT1D ${F} rawHalfs="true"><Array dim="2 1">0 70000</Array></LUT1D>`, 'a whole number under 65536, not 70000'],
    [`<LUT1D ${F}><IndexMap dim="2">0 1</IndexMap></LUT1D>`, 'an IndexMap is not read'],
    [`<LUT3D ${F}><Array dim="2 2 3 3">0</Array></LUT3D>`, 'as large on every side'],
    [`<LUT3D ${F} interpolation="cubic"><Array dim="2 2 2 3">0</Array></LUT3D>`, 'interpolation “cubic”'],
    [`<Range ${F}/>`, 'a Range states a least or a greatest value'],
    [`<Range ${F}><minInValue>0</minInValue></Range>`, 'minInValue and minOutValue come together'],
    [`<Log ${F} style="constructor"/>`, 'style “constructor” of Log is not known'],
    [`<Log ${F} style="cameraLinToLog"/>`, 'cameraLinToLog has no linSideBreak'],
    [`<Exponent ${F} style="monCurveFwd"><ExponentParams exponent="1" offset="0.1"/></Exponent>`, 'exponent must be'],
    [`<ASC_CDL ${F}><SOPNode><Slope>1 1 1</Slope></SOPNode></ASC_CDL>`, 'Line 4: SOPNode has no Offset.'],
    ['<Matrix>', 'Line 5: '],
    ['<!DOCTYPE x>', 'Line 4: '],
  ])('%s is refused: %s', (steps, said) => {
    expect(() => readClf(list(steps))).toThrow(CubeError);
    expect(() => readClf(list(steps))).toThrow(said);
  });
  it('of something else is refused', () => {
    expect(() => readClf('<ColorCorrection/>')).toThrow('Line 1: “ColorCorrection” is no ProcessList.');
    expect(() => readClf('')).toThrow(CubeError);
    expect(() => readClf('<a>'.repeat(100))).toThrow('nested too deep');
  });
  it('whatever it holds is read or refused, never anything else', () => {
    const name = fc.constantFrom('LUT1D', 'LUT3D', 'Matrix', 'Range', 'Log', 'Exponent', 'ASC_CDL', 'Array', 'SatNode');
    const attribute = fc.constantFrom(
      F,
      'dim="2 2 2 3"',
      'dim="3 4"',
      'style="basicRev"',
      'style="log2"',
      'a',
      'x="1"',
    );
    const inner = fc.oneof(fc.constantFrom('', '1 2 3', '<', '&amp;', ']]>', '1e400'), fc.string({ maxLength: 9 }));
    const part = fc
      .tuple(name, attribute, name, attribute, inner)
      .map(([n, a, m, b, x]) => `<${n} ${a}><${m} ${b}>${x}</${m}></${n}>`);
    fc.assert(
      fc.property(fc.array(part, { maxLength: 4 }), (parts) => {
        try {
          const rgb = new Float64Array(3);
          clfAt(readClf(list(parts.join(''))))(rgb);
        } catch (error) {
          expect(error).toBeInstanceOf(CubeError);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
