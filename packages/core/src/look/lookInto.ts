import type { Cdl, LookCurves } from '../document/look.ts';
import { cdlChannel, cdlSaturation } from '../light/balance.ts';
import { codesFromEncoded, maxCodeOf, type CodePicture, type CodePlane } from '../pipeline/picture.ts';
import { tableOf } from '../recolour/curves.ts';
import { isStraight, STRAIGHT_CURVE } from '../recolour/neutralFiner.ts';
import type { OnCodes } from './cubeAt.ts';
import { tableAt, type LookTable } from './table.ts';

/** The overall correction after all recolours: the CDL first, then curves, then the table; any may be left out. */
export interface Look {
  cdl?: Cdl | undefined;
  curves?: LookCurves | undefined;
  table?: LookTable | undefined;
}
export const NEUTRAL_CDL: Cdl = { slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 };
export const STRAIGHT_LOOK_CURVES: LookCurves = {
  tone: STRAIGHT_CURVE,
  red: STRAIGHT_CURVE,
  green: STRAIGHT_CURVE,
  blue: STRAIGHT_CURVE,
};

/** The curve of all channels, then each one's own; straight ones are left out. */
function onCurves({ tone, red, green, blue }: LookCurves): OnCodes {
  const ofAll = isStraight(tone) ? undefined : tableOf(tone);
  const own = [red, green, blue].map((curve) => (isStraight(curve) ? undefined : tableOf(curve)));
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const code = ofAll ? ofAll(rgb[c]!) : rgb[c]!;
      rgb[c] = own[c]?.(code) ?? code;
    }
  };
}

/** A look as a function. */
export function lookAt({ cdl, curves, table }: Look): OnCodes {
  const bend = curves && onCurves(curves);
  const look = table && tableAt(table);
  return (rgb) => {
    if (cdl) {
      for (let c = 0; c < 3; c++) rgb[c] = cdlChannel(rgb[c]!, cdl.slope[c]!, cdl.offset[c]!, cdl.power[c]!);
      cdlSaturation(rgb, cdl.saturation);
    }
    bend?.(rgb);
    look?.(rgb);
  };
}

/** A picture as it is seen through a look, on the codes of its own encoding, as looks are exchanged. */
export function throughLook(picture: CodePicture, look: Look): CodePicture {
  const { width, height, r, g, b } = picture;
  const change = lookAt(look);
  const scale = 1 / maxCodeOf(r);
  const out = [0, 1, 2].map(() => new Float32Array(r.length)) as [Float32Array, Float32Array, Float32Array];
  const rgb = new Float64Array(3);
  for (let i = 0; i < r.length; i++) {
    rgb[0] = r[i]! * scale;
    rgb[1] = g[i]! * scale;
    rgb[2] = b[i]! * scale;
    change(rgb);
    out[0][i] = rgb[0];
    out[1][i] = rgb[1];
    out[2][i] = rgb[2];
  }
  const codes = (plane: CodePlane, values: Float32Array) => codesFromEncoded(plane, values);
  return { width, height, r: codes(r, out[0]), g: codes(g, out[1]), b: codes(b, out[2]) };
}
