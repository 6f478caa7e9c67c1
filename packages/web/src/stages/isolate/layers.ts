import type { Geometry, KeyLayer, Layer, LayerId, ShapeLayer } from '@mellow/contract';

const base = (name: string, mode: Layer['mode']) => ({ id: crypto.randomUUID() as LayerId, name, on: true, mode, invert: false, strength: 1 });
const count = (layers: readonly Layer[], kind: string) => layers.filter((l) => l.name.startsWith(kind)).length + 1;

/** A new key: it adds when it is the first layer, and keeps within what is there otherwise. */
export const newKey = (layers: readonly Layer[]): KeyLayer => ({ ...base(`Range key ${count(layers, 'Range key')}`, layers.length === 0 ? 'add' : 'within'), kind: 'range', key: null, picks: [] });

const FORM = { rectangle: 'Rectangle', ellipse: 'Ellipse', spline: 'Spline' } as const;
/** A new shape: it bounds what is there, and is all there is when it comes first. */
export const newShape = (layers: readonly Layer[], geometry: Geometry): ShapeLayer => ({
  ...base(`${FORM[geometry.form]} ${count(layers, FORM[geometry.form])}`, layers.length === 0 ? 'add' : 'within'),
  kind: 'shape',
  geometry,
  feather: { innerPx: 1, outerPx: 1, falloff: 'smooth' },
});
