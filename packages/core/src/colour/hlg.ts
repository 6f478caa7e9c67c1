// Hybrid log-gamma: Rec. ITU-R BT.2100-2 table 5, mirrored for negative values.

const A = 0.17883277;
const B = 1 - 4 * A;
const C = 0.5 - A * Math.log(4 * A);
/** Where the square root ends, on the light's side and on the signal's. */
const LIGHT_KNEE = 1 / 12;
const SIGNAL_KNEE = 0.5;

const sceneLight = (signal: number): number =>
  signal <= SIGNAL_KNEE ? signal ** 2 / 3 : (Math.exp((signal - C) / A) + B) / 12;
/** Light of the signal of diffuse white, 75 %: Rep. ITU-R BT.2408 table 1. It is 1 in our light. */
const DIFFUSE_WHITE = sceneLight(0.75);

/**
 * Light before the camera's curve (1 = diffuse white) of an HLG signal, nominally 0..1: the inverse of the table's
 * OETF. The display's own curve (its OOTF) depends on how bright the display is, and is none of the file's.
 */
export function linearFromHlg(signal: number): number {
  const light = sceneLight(Math.abs(signal)) / DIFFUSE_WHITE;
  return signal < 0 ? -light : light;
}

/** HLG signal of such light. */
export function hlgFromLinear(linear: number): number {
  const e = Math.abs(linear) * DIFFUSE_WHITE;
  const signal = e <= LIGHT_KNEE ? Math.sqrt(3 * e) : A * Math.log(12 * e - B) + C;
  return linear < 0 ? -signal : signal;
}
