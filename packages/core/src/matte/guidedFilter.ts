import { kernels, type Kernels } from '../kernels/module.ts';
import { columnsRound, paddedSums, slide, slideDown, sumBefore } from './boxMean.ts';
import { RowRoom } from '../kernels/rowRoom.ts';

/**
 * Guided filter: smooths `plane` where the guide is smooth and keeps its edges where the guide has edges.
 * K. He, J. Sun, X. Tang, "Guided Image Filtering" (ECCV 2010, PAMI 2013), Algorithm 1. `radius` in samples; `epsilon`
 * is the variance of the guide below which it counts as smooth. In place.
 *
 * Means are taken by running sums: in each window the line that gives the plane from the guide best, `slope` and
 * `offset`; then at each pixel the mean of the lines of all windows that hold it.
 */
export function guidedFilterInPlace(
  plane: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): void {
  const own = kernels();
  if (own) guidedByKernel(own, plane, guide, width, height, radius, epsilon);
  else guidedBySamples(plane, guide, width, height, radius, epsilon);
}

export function guidedBySamples(
  plane: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): void {
  const slope = new Float32Array(plane.length);
  const offset = new Float32Array(plane.length);
  const sums = { guide: paddedSums(width, radius), plane: paddedSums(width, radius) };
  const byGuide = { guide: paddedSums(width, radius), plane: paddedSums(width, radius) };
  slideDown(width, height, radius, {
    change: (coming, going) => {
      slide(sums.guide.subarray(radius + 1), guide, width, coming, going);
      slide(sums.plane.subarray(radius + 1), plane, width, coming, going);
      slideProducts(byGuide.guide.subarray(radius + 1), guide, guide, width, coming, going);
      slideProducts(byGuide.plane.subarray(radius + 1), guide, plane, width, coming, going);
    },
    rest: (row, rows) => {
      let [sumI, sumP] = [sumBefore(sums.guide, radius), sumBefore(sums.plane, radius)];
      let [sumII, sumIP] = [sumBefore(byGuide.guide, radius), sumBefore(byGuide.plane, radius)];
      for (let x = 0; x < width; x++) {
        const ahead = x + 2 * radius + 1;
        sumI += sums.guide[ahead]! - sums.guide[x]!;
        sumP += sums.plane[ahead]! - sums.plane[x]!;
        sumII += byGuide.guide[ahead]! - byGuide.guide[x]!;
        sumIP += byGuide.plane[ahead]! - byGuide.plane[x]!;
        const area = rows * columnsRound(x, width, radius);
        const variance = Math.max(area * sumII - sumI * sumI, 0);
        const steep = (area * sumIP - sumI * sumP) / (variance + area * area * epsilon);
        slope[row + x] = steep;
        offset[row + x] = (sumP - steep * sumI) / area;
      }
    },
  });
  const lines = { slope: paddedSums(width, radius), offset: paddedSums(width, radius) };
  slideDown(width, height, radius, {
    change: (coming, going) => {
      slide(lines.slope.subarray(radius + 1), slope, width, coming, going);
      slide(lines.offset.subarray(radius + 1), offset, width, coming, going);
    },
    rest: (row, rows) => {
      let [steep, up] = [sumBefore(lines.slope, radius), sumBefore(lines.offset, radius)];
      for (let x = 0; x < width; x++) {
        const ahead = x + 2 * radius + 1;
        steep += lines.slope[ahead]! - lines.slope[x]!;
        up += lines.offset[ahead]! - lines.offset[x]!;
        plane[row + x] = (steep * guide[row + x]! + up) / (rows * columnsRound(x, width, radius));
      }
    },
  });
}
/** Products of two planes come into the sums of the columns and go. */
function slideProducts(
  sums: Float64Array,
  p: Float32Array,
  q: Float32Array,
  width: number,
  coming: number,
  going: number,
): void {
  for (let x = 0; x < width; x++) {
    const comes = coming < 0 ? 0 : p[coming + x]! * q[coming + x]!;
    const goes = going < 0 ? 0 : p[going + x]! * q[going + x]!;
    sums[x] = sums[x]! + (comes - goes);
  }
}

/** Rows in the kernels' memory: those of two planes that come and go, and two to work with. */
const [COMES, GOES, FIRST, SECOND, ROWS] = [1, 3, 5, 6, 7];
/** Puts the rows of two planes that come into a window and go where they are found; gives their addresses. */
function putRows(
  room: RowRoom,
  [p, q]: readonly [Float32Array, Float32Array],
  width: number,
  coming: number,
  going: number,
): [number, number, number, number] {
  return [
    room.put(COMES, p, coming, width),
    room.put(COMES + 1, q, coming, width),
    room.put(GOES, p, going, width),
    room.put(GOES + 1, q, going, width),
  ];
}

/** The same with two of the sums in each step. */
function guidedByKernel(
  own: Kernels,
  plane: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): void {
  const slope = new Float32Array(plane.length);
  const offset = new Float32Array(plane.length);
  const lines = new RowRoom(own, width, radius, ROWS, 4);
  slideDown(width, height, radius, {
    change: (coming, going) =>
      own.slideGuided(width, ...putRows(lines, [guide, plane], width, coming, going), lines.sums),
    rest: (row, rows) => {
      own.linesOfRow(width, radius, rows, epsilon, lines.padded, lines.at(FIRST), lines.at(SECOND));
      lines.take(FIRST, slope, row, width);
      lines.take(SECOND, offset, row, width);
    },
  });
  const means = new RowRoom(own, width, radius, ROWS, 2);
  slideDown(width, height, radius, {
    change: (coming, going) =>
      own.slideLines(width, ...putRows(means, [slope, offset], width, coming, going), means.sums),
    rest: (row, rows) => {
      const there = means.put(FIRST, guide, row, width);
      own.filteredRow(width, radius, rows, means.padded, there, means.at(SECOND));
      means.take(SECOND, plane, row, width);
    },
  });
}
