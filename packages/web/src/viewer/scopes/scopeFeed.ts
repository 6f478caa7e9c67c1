// The scope of the frame that is shown, from the viewer to whoever draws it. Grids of counts are no business of the
// store: they change with every frame and nothing is derived from them.
import { useSyncExternalStore } from 'react';
import type { Scope } from '@mellow/core';

let shown: Scope | undefined;
const listeners = new Set<() => void>();

export function publishScope(scope: Scope | undefined): void {
  if (scope === shown) return;
  shown = scope;
  for (const tell of listeners) tell();
}
function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}
export const useScope = (): Scope | undefined => useSyncExternalStore(subscribe, () => shown);
