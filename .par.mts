import { covers, ALL, SIMILAR, MOVE, usual, mean, follow } from './demo/tracking/sequences.ts';
for (const [name, spec, dof, hold] of [
  ['coffee 55 hold 100', usual('coffee.png', [150, 100, 420, 320], 16, { ...covers(0.55, 'brick.png') }), ALL, true],
  ['parrot 55 hold', usual('parrot.png', [140, 140, 340, 340], 103, { ...covers(0.55, 'grass.png'), frames: 64 }), ALL, true],
] as const) { const t = follow(spec, dof, hold); console.log(name, t.textureErrorPx.toFixed(3), mean(t.errors).toFixed(3), Math.max(...t.errors).toFixed(2), t.errors.length, t.stopped?.reason ?? '', t.stopped?.errorPx.toFixed(2) ?? ''); }
