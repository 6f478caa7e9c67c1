import { useMemo } from 'react';
import type { Encoding, KeyLayer } from '@mellow/contract';
import { keyFromPicks, windowsOf, type ColourDensity, type KeyWindow, type Window } from '@mellow/core';
import type { Stack } from './useStack.ts';
import { WindowNumbers } from './WindowNumbers.tsx';
import { WindowStrip } from './WindowStrip.tsx';

/** What the key's picks alone would set, for the numbers to go back to. */
const solvedKey = ({ kind, key, picks }: KeyLayer, encoding: Encoding) =>
  picks.length > 0 ? (keyFromPicks(kind, key as never, picks, encoding) as Record<string, Window> | null) : null;

const histogramOf = (density: ColourDensity | undefined, { histogram }: KeyWindow) => {
  if (!density || !histogram) return undefined;
  return histogram === 'lightness' ? density.lightness : density.encoded[histogram];
};

interface Props {
  layer: KeyLayer;
  stack: Stack;
  density: ColourDensity | undefined;
  encoding: Encoding;
}

/** The windows of a key, as its kind lists them: over the frame's histograms where they are on one, and in numbers. */
export function KeyWindows({ layer, stack, density, encoding }: Props) {
  const solved = useMemo(() => solvedKey(layer, encoding), [layer, encoding]);
  const windows = windowsOf(layer.kind, layer.key as never);
  const withWindow = (name: string, window: Window) =>
    ({ ...layer, key: { ...layer.key, [name]: window } }) as KeyLayer;
  const drag = (name: string, window: Window) => stack.dragLayer(withWindow(name, window));
  const save = (name: string, window: Window) => stack.saveLayer(`${layer.name}: ${name}`, withWindow(name, window));
  return (
    <>
      {windows
        .filter((w) => w.histogram)
        .map((w) => (
          <div key={w.name}>
            <span className="quiet">{w.label}</span>
            <WindowStrip
              label={w.label.toLowerCase()}
              histogram={histogramOf(density, w)}
              window={w.window}
              onDrag={(window) => drag(w.name, window)}
              onSave={(window) => save(w.name, window)}
            />
          </div>
        ))}
      <WindowNumbers rows={windows.map((w) => ({ ...w, solved: solved?.[w.name] }))} onDrag={drag} onSave={save} />
    </>
  );
}
