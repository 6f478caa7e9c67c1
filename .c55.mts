import { covers, ALL, usual, mean, follow } from './demo/tracking/sequences.ts';
import { makeSequence } from './packages/core/src/testing/sequences.ts';
import { writeFileSync, readFileSync, existsSync } from 'node:fs';
const spec = usual('coffee.png', [150, 100, 420, 320], 16, { ...covers(0.55, 'brick.png'), frames: 64 });
const made = makeSequence(spec);
const frame = (t: number) => { const p = `/tmp/c55-${t}.f32`; if (!existsSync(p)) writeFileSync(p, Buffer.from(made.frame(t).buffer)); const b = readFileSync(p); return new Float32Array(b.buffer.slice(b.byteOffset, b.byteOffset + b.length)); };
(globalThis as any).truthOf = (t: number) => made.motions[t];
const t = follow(spec, ALL, process.argv[2] === "hold", { ...made, frame });
console.log(mean(t.errors).toFixed(3), Math.max(...t.errors).toFixed(2), t.errors.length, t.stopped?.reason ?? '', t.stopped?.errorPx.toFixed(2) ?? ''); console.log(t.errors.slice(38, 52).map((e, i) => `${38 + i + 1}:` + e.toFixed(2) + '/' + t.confidences[38 + i]!.toFixed(2)).join(' '));
