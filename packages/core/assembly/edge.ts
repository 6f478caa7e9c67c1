// The soft edge of a matte, place by place, to the bit as in src/recolour: what is computed is doubles. A colour of a
// part is four floats, its channels and 1; four zeros where it is not known, which count for nothing in a sum.

const SOLID: f64 = 0.98;
const FIT: f64 = 30;
const SMOOTHNESS: f64 = 0.001;
const MOST_STEPS: u32 = 65_535;

function lower(four: v128): v128 {
  return f64x2.promote_low_f32x4(four);
}
function upper(four: v128): v128 {
  return f64x2.promote_low_f32x4(i64x2.shuffle(four, four, 1, 1));
}
/** A known colour. */
function known(low: v128, high: v128): v128 {
  const four = i64x2.shuffle(f32x4.demote_f64x2_zero(low), f32x4.demote_f64x2_zero(high), 0, 2);
  return f32x4.replace_lane(four, 3, 1);
}
function isKnown(part: usize, place: i32): bool {
  return load<f32>(part + ((<usize>place) << 4), 12) != 0;
}

/**
 * mixedBand.ts, partOf, and edgeParts.ts, flooded, before the flood: of `places`, the cube of how much each shows of
 * the part, and its colour where it stands alone.
 */
export function standing(places: i32, alpha: usize, ofPiece: bool, seen: usize, weights: usize, part: usize): void {
  for (let p: usize = 0; p < <usize>places; p++) {
    const a = load<f32>(alpha + (p << 2));
    const share = <f64>(ofPiece ? a : <f32>(1 - <f64>a));
    store<f32>(weights + (p << 2), <f32>(share * share * share));
    const colour = share >= SOLID ? f32x4.replace_lane(v128.load(seen + (p << 4)), 3, 1) : f32x4.splat(0);
    v128.store(part + (p << 4), colour);
  }
}

/** A place that waits has its turn: its bit is set. */
function meet(place: i32, turn: usize, due: usize): void {
  const at = turn + ((<usize>place) << 2);
  const w = load<i32>(at);
  const word = due + ((<usize>(w >> 5)) << 2);
  store<u32>(word, load<u32>(word) | (1 << (w & 31)));
  store<i32>(at, -1);
}
/**
 * mixedBand.ts, partOf, and edgeParts.ts, flooded, as one: each place takes its colour when it has its turn. `due`
 * are `words` zeros, `steps` zeros. Gives how many places the flood has come to; which they are stands in `order`.
 */
export function flood(
  mixed: i32,
  words: i32,
  next: usize,
  waiting: usize,
  turn: usize,
  due: usize,
  weights: usize,
  part: usize,
  steps: usize,
  order: usize,
): i32 {
  let dueCount = 0;
  for (let k = 0; k < mixed; k++) {
    if (isKnown(part, k)) continue;
    for (let m = 8 * k; m < 8 * k + 8; m++) {
      const p = load<i32>(next + ((<usize>m) << 2));
      if (p < 0 || !isKnown(part, p)) continue;
      meet(k, turn, due);
      dueCount++;
      break;
    }
  }
  let n = 0;
  while (dueCount > 0)
    for (let word = 0; word < words; word++) {
      const here = due + ((<usize>word) << 2);
      let later = load<u32>(here);
      while (later !== 0) {
        const bit = later & (0 - later);
        const k = load<i32>(waiting + ((<usize>(32 * word + ctz(bit))) << 2));
        store<u32>(here, load<u32>(here) ^ bit);
        dueCount--;
        let fewest = MOST_STEPS;
        let low = f64x2.splat(0);
        let high = f64x2.splat(0);
        for (let m = 8 * k; m < 8 * k + 8; m++) {
          const p = load<i32>(next + ((<usize>m) << 2));
          if (p < 0) continue;
          if (isKnown(part, p)) {
            const colour = v128.load(part + ((<usize>p) << 4));
            const w = f64x2.splat(<f64>load<f32>(weights + ((<usize>p) << 2)));
            low = f64x2.add(low, f64x2.mul(w, lower(colour)));
            high = f64x2.add(high, f64x2.mul(w, upper(colour)));
            const s = p < mixed ? <u32>load<u16>(steps + ((<usize>p) << 1)) : 0;
            if (s < fewest) fewest = s;
          } else if (p < mixed && load<i32>(turn + ((<usize>p) << 2)) >= 0) {
            meet(p, turn, due);
            dueCount++;
          }
        }
        const weight = f64x2.splat(f64x2.extract_lane(high, 1));
        v128.store(part + ((<usize>k) << 4), known(f64x2.div(low, weight), f64x2.div(high, weight)));
        store<u16>(steps + ((<usize>k) << 1), <u16>min<u32>(fewest + 1, MOST_STEPS));
        store<i32>(order + ((<usize>n) << 2), k);
        n++;
        later = load<u32>(here) & ~(bit | (bit - 1));
      }
    }
  return n;
}

/** Both parts of a pixel, solved and kept from `least` to `most`. */
function solved(own: v128, other: v128, ofOther: v128, ofBoth: v128, det: v128, least: v128, most: v128): v128 {
  const x = f64x2.div(f64x2.sub(f64x2.mul(own, ofOther), f64x2.mul(other, ofBoth)), det);
  return f64x2.min(f64x2.max(x, least), most);
}
/** How much a pixel counts where α changes so much. */
function fitOf(change: f64, half: v128): v128 {
  const share = f64x2.div(f64x2.splat(change), half);
  return f64x2.div(f64x2.splat(FIT), f64x2.add(f64x2.splat(1), f64x2.mul(share, share)));
}
/** What the squares of a pixel and of its neighbours make of a part's own term. */
function ofPart(fit: v128, share: v128, weight: v128): v128 {
  return f64x2.add(f64x2.mul(f64x2.mul(fit, share), share), weight);
}
function determinant(ofF: v128, ofB: v128, ofBoth: v128): v128 {
  return f64x2.sub(f64x2.mul(ofF, ofB), f64x2.mul(ofBoth, ofBoth));
}
/** Does a sweep change what one of the four beside this place shows? */
function hasMixedBeside(k: i32, mixed: i32, next: usize): bool {
  for (let m = 8 * k; m < 8 * k + 4; m++) {
    const p = load<i32>(next + ((<usize>m) << 2));
    if (p >= 0 && p < mixed) return true;
  }
  return false;
}
/**
 * edgeParts.ts, relax: `terms` are where each channel counts half, its least and its most, four doubles each. What
 * stands alone among pixels that are not mixed is found by the first sweep: another would find the same.
 */
export function relax(
  mixed: i32,
  sweep: i32,
  alpha: usize,
  next: usize,
  seen: usize,
  piece: usize,
  ground: usize,
  terms: usize,
): void {
  const halfLow = v128.load(terms);
  const halfHigh = v128.load(terms, 16);
  const leastLow = v128.load(terms, 32);
  const leastHigh = v128.load(terms, 48);
  const mostLow = v128.load(terms, 64);
  const mostHigh = v128.load(terms, 80);
  for (let n = 0; n < mixed; n++) {
    const k = sweep & 1 ? mixed - 1 - n : n;
    if (sweep > 0 && !hasMixedBeside(k, mixed, next)) continue;
    if (!isKnown(piece, k) || !isKnown(ground, k)) continue;
    const a = <f64>load<f32>(alpha + ((<usize>k) << 2));
    let change: f64 = 0;
    let fLow = f64x2.splat(0);
    let fHigh = f64x2.splat(0);
    let bLow = f64x2.splat(0);
    let bHigh = f64x2.splat(0);
    for (let m = 8 * k; m < 8 * k + 4; m++) {
      const p = load<i32>(next + ((<usize>m) << 2));
      if (p < 0) continue;
      const off = abs(a - <f64>load<f32>(alpha + ((<usize>p) << 2)));
      change += off;
      const w = f64x2.splat(SMOOTHNESS + off);
      const f = v128.load(piece + ((<usize>p) << 4));
      const b = v128.load(ground + ((<usize>p) << 4));
      fLow = f64x2.add(fLow, f64x2.mul(w, lower(f)));
      fHigh = f64x2.add(fHigh, f64x2.mul(w, upper(f)));
      bLow = f64x2.add(bLow, f64x2.mul(w, lower(b)));
      bHigh = f64x2.add(bHigh, f64x2.mul(w, upper(b)));
    }
    const own = f64x2.splat(a);
    const rest = f64x2.splat(1 - a);
    const fWeight = f64x2.splat(f64x2.extract_lane(fHigh, 1));
    const bWeight = f64x2.splat(f64x2.extract_lane(bHigh, 1));
    const fitLow = fitOf(change, halfLow);
    const ofFLow = ofPart(fitLow, own, fWeight);
    const ofBLow = ofPart(fitLow, rest, bWeight);
    const bothLow = f64x2.mul(f64x2.mul(fitLow, own), rest);
    const detLow = determinant(ofFLow, ofBLow, bothLow);
    if (f64x2.extract_lane(detLow, 0) < 1e-12) continue;
    const fitHigh = fitOf(change, halfHigh);
    const ofFHigh = ofPart(fitHigh, own, fWeight);
    const ofBHigh = ofPart(fitHigh, rest, bWeight);
    const bothHigh = f64x2.mul(f64x2.mul(fitHigh, own), rest);
    const detHigh = determinant(ofFHigh, ofBHigh, bothHigh);
    const v = v128.load(seen + ((<usize>k) << 4));
    const vLow = lower(v);
    const vHigh = upper(v);
    fLow = f64x2.add(fLow, f64x2.mul(f64x2.mul(fitLow, own), vLow));
    fHigh = f64x2.add(fHigh, f64x2.mul(f64x2.mul(fitHigh, own), vHigh));
    bLow = f64x2.add(bLow, f64x2.mul(f64x2.mul(fitLow, rest), vLow));
    bHigh = f64x2.add(bHigh, f64x2.mul(f64x2.mul(fitHigh, rest), vHigh));
    const newFLow = solved(fLow, bLow, ofBLow, bothLow, detLow, leastLow, mostLow);
    const newFHigh = solved(fHigh, bHigh, ofBHigh, bothHigh, detHigh, leastHigh, mostHigh);
    const newBLow = solved(bLow, fLow, ofFLow, bothLow, detLow, leastLow, mostLow);
    const newBHigh = solved(bHigh, fHigh, ofFHigh, bothHigh, detHigh, leastHigh, mostHigh);
    const newF = known(newFLow, newFHigh);
    const newB = known(newBLow, newBHigh);
    v128.store(piece + ((<usize>k) << 4), newF);
    v128.store(ground + ((<usize>k) << 4), newB);
  }
}
