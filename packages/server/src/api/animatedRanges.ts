import { Layer, Recipe, Sighting, type Animated, type Edit, type Entity } from '@mellow/contract';
import { numbersAt } from '@mellow/core';
import { Refused } from './problem.ts';

type Checked = {
  safeParse: (
    value: unknown,
  ) => { success: true } | { success: false; error: { issues: { path: PropertyKey[]; message: string }[] } };
};

/** Puts the numbers of every keyframe's frame into the object: each result must be as valid as the object itself. `path`: where the keyframes are. */
function assertOn(schema: Checked, object: object, animated: Animated | undefined, path: string): void {
  const frames = new Set(Object.values(animated ?? {}).flatMap((keys) => keys.map((k) => k.frame)));
  for (const frame of frames) {
    const found = schema.safeParse(numbersAt(object, animated, frame));
    if (found.success) continue;
    const { path: where, message } = found.error.issues[0]!;
    const name = where.join('.');
    throw new Refused('invalid-input', `The keyframe of ${name} on frame ${frame} is out of range: ${message}.`, [
      { path: `${path}.${name}`, message: `frame ${frame}: ${message}` },
    ]);
  }
}

function assertLayers(layers: readonly Layer[], path: string): void {
  layers.forEach((layer, i) => {
    assertOn(Layer, layer, layer.animated, `${path}.${i}.animated`);
    if (layer.kind === 'group') assertLayers(layer.layers, `${path}.${i}.layers`);
  });
}

/** Keyframes must keep every number within its own range. Throws Refused naming the number and the frame. */
export function assertAnimatedInRange(edits: readonly Edit[]): void {
  edits.forEach((edit, i) => {
    const path = `edits.${i}.value`;
    // the contract has checked that a value is of its edit's kind
    if (edit.kind === 'sighting' && edit.value) {
      const value = edit.value as Entity<'sighting'>;
      assertOn(Sighting, value, value.animated, `${path}.animated`);
      assertLayers(value.layers, `${path}.layers`);
    }
    if (edit.kind === 'recipe' && edit.value)
      for (const [shotId, animated] of Object.entries((edit.value as Entity<'recipe'>).animated))
        assertOn(Recipe, edit.value, animated, `${path}.animated.${shotId}`);
  });
}
