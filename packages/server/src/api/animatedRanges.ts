import { LAYERS, Recipe, Sighting, type Animated, type Edit, type Layer } from '@mellow/contract';
import { numberCurve, numberOf, withNumber } from '@mellow/core';
import type { z } from 'zod';
import { Refused } from '../errors.ts';

/** One number with keyframes, as found within the part of the object that it belongs to. */
interface Curve {
  name: string;
  frames: number[];
  at: (frame: number) => number;
}

/** Animated numbers by the part they belong to: `cleanUp.floor` and `cleanUp.ceiling` must fit together. */
function curvesByPart(object: Record<string, unknown>, animated: Animated): Map<string, Curve[]> {
  const parts = new Map<string, Curve[]>();
  for (const [name, keys] of Object.entries(animated)) {
    // keyframes of a number that the object has not (any longer) do nothing
    if (keys.length === 0 || numberOf(object, name) === undefined) continue;
    const [part, ...rest] = name.split('.');
    const curve = { name: rest.join('.'), frames: keys.map((k) => k.frame), at: numberCurve(keys) };
    parts.set(part!, [...(parts.get(part!) ?? []), curve]);
  }
  return parts;
}

/**
 * Puts the numbers of every keyframe's frame into the part of the object they belong to: it must stay as valid as the
 * contract has it. Between keyframes nothing overshoots, so these frames are enough. `path`: where the keyframes are.
 */
function assertOn(
  shape: Record<string, z.ZodType>,
  object: object,
  animated: Animated | undefined,
  path: string,
): void {
  const record = object as Record<string, unknown>;
  for (const [part, curves] of curvesByPart(record, animated ?? {})) {
    const schema = shape[part];
    if (!schema) continue;
    for (const frame of new Set(curves.flatMap((c) => c.frames))) {
      const value = curves.reduce<unknown>(
        (v, c) => (c.name === '' ? c.at(frame) : withNumber(v, c.name, c.at(frame))),
        record[part],
      );
      const issue = schema.safeParse(value).error?.issues[0];
      if (!issue) continue;
      const name = [part, ...issue.path].join('.');
      const detail = `The keyframe of ${name} on frame ${frame} is out of range: ${issue.message}.`;
      throw new Refused('invalid-input', detail, [
        { path: `${path}.${name}`, message: `frame ${frame}: ${issue.message}` },
      ]);
    }
  }
}

function assertLayers(layers: readonly Layer[], path: string): void {
  layers.forEach((layer, i) => {
    assertOn(LAYERS[layer.kind].shape, layer, layer.animated, `${path}.${i}.animated`);
    if (layer.kind === 'group') assertLayers(layer.layers, `${path}.${i}.layers`);
  });
}

/** Keyframes must keep every number within its own range. Throws Refused naming the number and the frame. */
export function assertAnimatedInRange(edits: readonly Edit[]): void {
  edits.forEach((edit, i) => {
    const path = `edits.${i}.value`;
    if (edit.kind === 'sighting' && edit.value) {
      assertOn(Sighting.shape, edit.value, edit.value.animated, `${path}.animated`);
      assertLayers(edit.value.layers, `${path}.layers`);
    }
    if (edit.kind === 'recipe' && edit.value)
      for (const [shotId, animated] of Object.entries(edit.value.animated))
        assertOn(Recipe.shape, edit.value, animated, `${path}.animated.${shotId}`);
  });
}
