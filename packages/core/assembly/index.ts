export { oklab, rangeKey, recolour } from './colour';
export { blurLines } from './gaussian';
