// The shape followed behind the chair against the demo's ground truth; the bench has all five shots.
import { expect, it } from 'vitest';
import { FOLLOWED, slides } from './followed.ts';
import { mean } from './sequences.ts';

it.each(FOLLOWED.filter((f) => f.file === 'shot-2-cafe'))(
  'the $piece of $file stays within a pixel of its outline, mean over the whole shot',
  (followed) => {
    const { px, tracked } = slides(followed);
    console.log(
      `${followed.piece}, ${followed.file}: slide ${mean(px).toFixed(2)} px mean, ` +
        `${Math.max(...px).toFixed(2)} worst, ${followed.keys.length} keyframes`,
    );
    expect([px.length, tracked]).toEqual([48, 48]);
    expect(followed.keys.length).toBeLessThanOrEqual(3);
    expect(mean(px)).toBeLessThanOrEqual(1);
  },
);
