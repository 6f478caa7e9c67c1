import { Button, Segmented, Tooltip } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import type { Encoding, KeyLayer, SampleLayer } from '@mellow/contract';
import { crossesNeutral, keyFromPicks, type RangeKey, type Window } from '@mellow/core';
import { tellProblem } from '../../app/editing.ts';
import { frameRefOf, type InHand } from '../../app/useProject.ts';
import { frameClient } from '../../engine/frameClient.ts';
import type { DensityAnswer } from '../../engine/frameProtocol.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { KeyField } from './KeyField.tsx';
import type { Stack } from './useStack.ts';
import { WindowNumbers, type WindowRow } from './WindowNumbers.tsx';
import { WindowStrip } from './WindowStrip.tsx';

/** The colours of the frame in hand, as a key reads them. */
function useDensity(
  { document, shot, media }: InHand,
  frame: number,
  reads: NonNullable<KeyLayer['reads']>,
): DensityAnswer | undefined {
  const [density, setDensity] = useState<DensityAnswer>();
  const ready = media && document.proxies[media.id]?.state === 'done';
  const ref = shot && media && JSON.stringify(frameRefOf(document, shot, media, frame));
  useEffect(() => {
    if (!ready || !ref) return;
    let wanted = true;
    void frameClient()
      .askLead({ kind: 'density', frame: JSON.parse(ref) as never, reads })
      .then(
        (d) => wanted && setDensity(d),
        () => undefined,
      );
    return () => void (wanted = false);
  }, [ref, reads, ready]);
  return density;
}

export function KeyEditor({ layer, stack, inHand }: { layer: KeyLayer; stack: Stack; inHand: InHand }) {
  const reads = layer.reads ?? 'balanced';
  const density = useDensity(inHand, stack.frame, reads);
  const balanced = Boolean(inHand.shot?.balance);
  if (!layer.key)
    return (
      <section>
        <div className="quiet">
          Pick the colour of the piece in the picture: a click, or a dragged rectangle. The field shows the picture’s
          colours; point at it to see which pixels it means.
        </div>
        <KeyField value={undefined} density={density} onDrag={() => undefined} onSave={() => undefined} />
      </section>
    );
  return (
    <section>
      <h2>
        Key
        <span style={{ flex: 1 }} />
        {balanced && (
          <Tooltip title="Which picture the key reads">
            <Segmented
              size="small"
              aria-label="The key reads"
              options={[
                { value: 'balanced', label: 'after balance' },
                { value: 'unbalanced', label: 'before' },
              ]}
              value={reads}
              onChange={(value) => void stack.setReads(layer, value as 'balanced').catch(tellProblem)}
            />
          </Tooltip>
        )}
        <Button
          size="small"
          disabled={layer.picks.length === 0}
          onClick={() => stack.solve(layer, layer.picks, `Solve ${layer.name} again from its picks`)}
        >
          Solve again
        </Button>
      </h2>
      <Windows layer={layer} stack={stack} density={density} encoding={inHand.shot!.encoding} />
    </section>
  );
}

/** What the key's picks alone would set, for the numbers to go back to. */
const solvedKey = (layer: KeyLayer, encoding: Encoding) =>
  layer.picks.length > 0
    ? (keyFromPicks(layer.kind, layer.key as never, layer.picks, encoding) as Record<string, Window> | null)
    : null;

function Windows({
  layer,
  stack,
  density,
  encoding,
}: {
  layer: KeyLayer;
  stack: Stack;
  density: DensityAnswer | undefined;
  encoding: Encoding;
}) {
  const solved = useMemo(() => solvedKey(layer, encoding), [layer, encoding]);
  if (layer.kind === 'sample') return <SampleNumbers layer={layer} stack={stack} density={density} />;
  const drag = (key: object) => stack.dragLayer({ ...layer, key } as KeyLayer);
  const save = (name: string, key: object) => stack.saveLayer(`${layer.name}: ${name}`, { ...layer, key } as KeyLayer);
  const put = (name: string, window: Window) => save(name, { ...layer.key, [name]: window });
  const pull = (name: string, window: Window) => drag({ ...layer.key, [name]: window });
  const unit = (name: string, label: string, window: Window): WindowRow => ({
    name,
    label,
    window,
    solved: solved?.[name],
    max: 1.5,
    step: 0.01,
    digits: 3,
  });
  const strip = (name: string, label: string, histogram: readonly number[] | undefined, window: Window) => (
    <WindowStrip
      key={name}
      label={label}
      histogram={histogram}
      window={window}
      onDrag={(w) => pull(name, w)}
      onSave={(w) => put(name, w)}
    />
  );
  if (layer.kind === 'range') {
    const key = layer.key as RangeKey;
    return (
      <>
        <KeyField value={key} density={density} onDrag={drag} onSave={save} />
        {strip('lightness', 'lightness', density?.lightness, key.lightness)}
        {crossesNeutral(key) && (
          <div className="card" role="alert">
            ⚠ The chroma margin runs over the neutral axis: greys will come in and flicker. Raise chroma “from”, or
            narrow its margin.
          </div>
        )}
        <WindowNumbers
          rows={[
            { name: 'hue', label: 'Hue °', window: key.hue, solved: solved?.hue, max: 720, step: 1, digits: 1 },
            {
              name: 'chroma',
              label: 'Chroma',
              window: key.chroma,
              solved: solved?.chroma,
              max: 0.5,
              step: 0.005,
              digits: 3,
            },
            unit('lightness', 'Lightness', key.lightness),
          ]}
          onDrag={pull}
          onSave={put}
        />
      </>
    );
  }
  if (layer.kind === 'rgb') {
    const { red, green, blue } = layer.key!;
    return (
      <>
        {strip('red', 'red', density?.encoded.red, red)}
        {strip('green', 'green', density?.encoded.green, green)}
        {strip('blue', 'blue', density?.encoded.blue, blue)}
        <WindowNumbers
          rows={[unit('red', 'Red', red), unit('green', 'Green', green), unit('blue', 'Blue', blue)]}
          onDrag={pull}
          onSave={put}
        />
      </>
    );
  }
  const { of, luma } = layer.key!;
  return (
    <>
      <Segmented
        size="small"
        aria-label="Luma of"
        options={[
          { value: 'luma', label: 'luma Y′' },
          { value: 'lightness', label: 'lightness L' },
        ]}
        value={of}
        onChange={(value) =>
          stack.solve({ ...layer, key: { of: value as 'luma', luma } }, layer.picks, `${layer.name} on ${value}`)
        }
      />
      <div style={{ height: 6 }} />
      {strip('luma', of, of === 'luma' ? density?.encoded.luma : density?.lightness, luma)}
      <WindowNumbers rows={[unit('luma', of === 'luma' ? 'Luma' : 'Lightness', luma)]} onDrag={pull} onSave={put} />
    </>
  );
}

function SampleNumbers({
  layer,
  stack,
  density,
}: {
  layer: SampleLayer;
  stack: Stack;
  density: DensityAnswer | undefined;
}) {
  const key = layer.key!;
  const field = (label: string, name: 'tolerance' | 'softness', neutral: number) => (
    <NumberField
      keyed={`key.${name}`}
      label={label}
      value={key[name]}
      unit="σ"
      min={0}
      max={20}
      step={0.05}
      digits={2}
      neutral={neutral}
      onDrag={(v) => stack.dragLayer({ ...layer, key: { ...key, [name]: v } })}
      onCommit={(v) => stack.saveLayer(`${label} of ${layer.name}`, { ...layer, key: { ...key, [name]: v } })}
    />
  );
  return (
    <>
      <KeyField value={undefined} density={density} onDrag={() => undefined} onSave={() => undefined} />
      <div className="quiet" style={{ marginBottom: 6 }}>
        {key.positive.length} {key.positive.length === 1 ? 'cloud' : 'clouds'} wanted, {key.negative.length} pushed
        back. Distances are in standard deviations of each cloud.
      </div>
      <div className="numbers">
        {field('Tolerance', 'tolerance', 2.5)}
        {field('Softness', 'softness', 1.5)}
      </div>
    </>
  );
}
