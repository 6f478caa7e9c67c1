/** Overlap of two masks, α ≥ ½: intersection over union (Jaccard index). */
export function compareMasks(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    const [p, q] = [a[i]! >= 0.5, b[i]! >= 0.5];
    if (p && q) both++;
    if (p || q) either++;
  }
  return either === 0 ? 1 : both / either;
}
