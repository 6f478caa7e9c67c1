// Pictures of codes for tests: random, but the same on every run.
import { maxCodeOf, type CodePicture, type CodePlane } from '../pipeline/picture.ts';
import { seededRandom } from '../track/random.ts';

type Integers = Uint8ArrayConstructor | Uint16ArrayConstructor;
/** Codes from end to end, the ends themselves among them: of black and white a table says nothing. */
export function noiseOfCodes(Plane: Integers, width: number, height: number, seed: number): CodePicture {
  const random = seededRandom(seed);
  const most = maxCodeOf(new Plane(0));
  const plane = (): CodePlane => {
    const out = new Plane(width * height);
    for (let i = 0; i < out.length; i++) {
      const at = random();
      out[i] = Math.min(Math.max(1.25 * at - 0.125, 0), 1) * most;
    }
    return out;
  };
  return { width, height, r: plane(), g: plane(), b: plane() };
}
