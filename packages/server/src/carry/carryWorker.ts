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
import type { Found, GoOn, Keep, SetOut, Step } from './carryProtocol.ts';
import { keepCarrier, readKeptCarrier } from './keptCarrier.ts';

const tables = makeTables();
let carrier: SelectionCarrier | undefined;
const carrierInHand = (): SelectionCarrier => {
  if (!carrier) throw new Error('no selection has been set out from');
  return carrier;
};

function pictureOf({ codes, encoding, balance }: SetOut | Step, scale: number): CarriedPicture {
  const source = sourceFrame(codes, encoding, scale, tables, { balance });
  return { oklab: source.oklab(), luma: source.luma() };
}

function setOut(request: SetOut): void {
  const { width, height } = request.codes;
  const picture = pictureOf(request, request.scale);
  const prepared = preparedPicture(picture.oklab, width, height);
  const mask = maskOnFrame(prepared, request.strokes, request.scale, request.carried);
  carrier = SelectionCarrier.from(picture, mask ?? new Float32Array(width * height));
}
function step(request: Step): Found {
  const { width, height } = request.codes;
  const { mask, certainty, isSeen } = carrierInHand().step(pictureOf(request, 1));
  const inside = new Uint8Array(mask.length);
  inside.set(mask);
  // hundredths: a frame that is seen at all is never 0
  const rounded = Math.round(certainty * 100) / 100;
  return { mask: bytesOfMask({ width, height, inside }), certainty: isSeen ? Math.max(rounded, 0.01) : 0 };
}
const keep = ({ path, madeOf, at }: Keep): Promise<void> =>
  keepCarrier(path, { madeOf, at, state: carrierInHand().state() });
async function goOn({ path, madeOf }: GoOn): Promise<number | undefined> {
  const kept = await readKeptCarrier(path, madeOf);
  if (kept) carrier = new SelectionCarrier(kept.state);
  return kept?.at;
}

/** What is found of the frame that is sent; the frame that is gone on from; nothing for the rest. */
export default async function answer(request: SetOut | Step | Keep | GoOn): Promise<Found | number | undefined> {
  switch (request.kind) {
    case 'set out':
      return void setOut(request);
    case 'step':
      return step(request);
    case 'keep':
      return void (await keep(request));
    case 'go on':
      return goOn(request);
  }
}
