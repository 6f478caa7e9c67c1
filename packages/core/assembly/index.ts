export { oklab, rangeKey, recolour } from './colour';
export { anyAbove0, codes, lightOf16, lightOf8, mix } from './codes';
export { blurLines } from './gaussian';
export { between, join } from './matte';
export { filteredRow, linesOfRow, meansOfRow, slide, slideGuided, slideLines } from './windows';
