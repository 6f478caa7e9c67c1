/** Numbers of a camera's logarithmic curve with a straight part near black, as its maker publishes them. */
interface LogWithToe {
  /** Light above which the logarithm holds. */
  cut: number;
  /** Above: `code = c · log10(a · light + b) + d`. */
  a: number;
  b: number;
  c: number;
  d: number;
  /** At and below: `code = e · light + f`. */
  e: number;
  f: number;
}

/** Both ways of such a curve; the straight part goes on below 0. */
export function logWithToe({ cut, a, b, c, d, e, f }: LogWithToe) {
  const codeOfCut = e * cut + f;
  return {
    codeFromLinear: (light: number): number => (light > cut ? c * Math.log10(a * light + b) + d : e * light + f),
    linearFromCode: (code: number): number => (code > codeOfCut ? (10 ** ((code - d) / c) - b) / a : (code - f) / e),
  };
}
