// What the browser keeps of the view from one visit to the next.
import { PLAIN_KEYFRAMING, type KeyframingMode } from './keyframingSlice.ts';
import { PLAIN_LOOK, type Look } from './lookSlice.ts';
import { NOWHERE, type Where } from './whereSlice.ts';

export interface Remembered {
  where: Where;
  look: Look;
  keyframing: KeyframingMode;
}
const keyOf = (projectId: string): string => `mellow:view:${projectId}`;

/** What was kept of a project, with plain values for whatever is missing, broken or of an older version. */
export function remembered(storage: Pick<Storage, 'getItem'>, projectId: string): Remembered {
  let kept: Partial<Remembered> = {};
  try {
    kept = (JSON.parse(storage.getItem(keyOf(projectId)) ?? '{}') as Partial<Remembered> | null) ?? {};
  } catch {
    // begin anew
  }
  return {
    where: { ...NOWHERE, ...kept.where },
    look: { ...PLAIN_LOOK, ...kept.look },
    keyframing: { ...PLAIN_KEYFRAMING, ...kept.keyframing },
  };
}
export const remember = (storage: Pick<Storage, 'setItem'>, projectId: string, view: Remembered): void =>
  storage.setItem(keyOf(projectId), JSON.stringify(view));
