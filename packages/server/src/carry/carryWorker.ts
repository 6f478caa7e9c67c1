// A carrying thread: holds one selection, carries it from frame to frame.
import {
  bytesOfMask,
  makeTables,
  maskOnFrame,
  preparedPicture,
  SelectionCarrier,
  sourceFrame,
  type CarriedPicture,
} from '@mellow/core';
import type { Found, SetOut, Step } from './carryProtocol.ts';

const tables = makeTables();
let carrier: SelectionCarrier | undefined;

function pictureOf({ codes, encoding, balance }: SetOut | Step, scale: number): CarriedPicture {
  const source = sourceFrame(codes, encoding, scale, tables, { balance });
  return { oklab: source.oklab(), luma: source.luma() };
}

/** Sets out anew, or carries on to the frame that is sent; what is found of it, undefined while setting out. */
export function answer(request: SetOut | Step): Found | undefined {
  const { width, height } = request.codes;
  if (request.kind === 'set out') {
    const picture = pictureOf(request, request.scale);
    const prepared = preparedPicture(picture.oklab, width, height);
    const mask = maskOnFrame(prepared, request.strokes, request.scale, request.carried);
    carrier = new SelectionCarrier(picture, mask ?? new Float32Array(width * height));
    return undefined;
  }
  if (!carrier) throw new Error('no selection has been set out from');
  const { mask, certainty, isSeen } = carrier.step(pictureOf(request, 1));
  const inside = new Uint8Array(mask.length);
  inside.set(mask);
  // hundredths: a frame that is seen at all is never 0
  const rounded = Math.round(certainty * 100) / 100;
  return { mask: bytesOfMask({ width, height, inside }), certainty: isSeen ? Math.max(rounded, 0.01) : 0 };
}
