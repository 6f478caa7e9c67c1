export { oklab, rangeKey, rangeKeyOfLight, recolour } from './colour';
export { anyAbove0, codes, lightOf16, lightOf8, mix } from './codes';
export { flood, relax, standing } from './edge';
export { followPoint } from './flow';
export { blurLines } from './gaussian';
export { between, join } from './matte';
export { halveRow, luma16, luma8, smoothRow } from './pyramid';
export { join16, join8, split } from './rgba';
export { filteredRow, linesOfRow, meansOfRow, slide, slideGuided, slideLines } from './windows';
