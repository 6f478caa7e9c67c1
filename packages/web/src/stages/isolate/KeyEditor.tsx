import { Button, Segmented, Tooltip } from 'antd';
import type { KeyLayer, LumaLayer, RangeLayer } from '@mellow/contract';
import { crossesNeutral, type ColourDensity } from '@mellow/core';
import { tellProblem } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyField } from './KeyField.tsx';
import { KeyWindows } from './KeyWindows.tsx';
import { SampleNumbers } from './SampleNumbers.tsx';
import { useDensity } from './useDensity.ts';
import type { Stack } from './useStack.ts';

interface Props {
  layer: KeyLayer;
  stack: Stack;
  inHand: InHand;
}
const nothing = () => undefined;

/** The key in hand: where it lies among the frame's colours, and its numbers. */
export function KeyEditor({ layer, stack, inHand }: Props) {
  const density = useDensity(inHand, stack.frame, layer.reads ?? 'balanced');
  if (!layer.key)
    return (
      <section>
        <div className="quiet">
          Pick the colour of the piece in the picture: a click, or a dragged rectangle. The field shows the picture’s
          colours; point at it to see which pixels it means.
        </div>
        <KeyField value={undefined} density={density} onDrag={nothing} onSave={nothing} />
      </section>
    );
  return (
    <section>
      <h2>
        Key
        <span style={{ flex: 1 }} />
        {inHand.shot?.balance && <Reads layer={layer} stack={stack} />}
        <Button
          size="small"
          disabled={layer.picks.length === 0}
          onClick={() => stack.solve(layer, layer.picks, `Solve ${layer.name} again from its picks`)}
        >
          Solve again
        </Button>
      </h2>
      {layer.kind === 'range' && <RangeField layer={layer} stack={stack} density={density} />}
      {layer.kind === 'luma' && <LumaOf layer={layer} stack={stack} />}
      {layer.kind === 'sample' ? (
        <>
          <KeyField value={undefined} density={density} onDrag={nothing} onSave={nothing} />
          <SampleNumbers layer={layer} stack={stack} />
        </>
      ) : (
        <KeyWindows layer={layer} stack={stack} density={density} encoding={inHand.shot!.encoding} />
      )}
    </section>
  );
}

/** Which picture the key reads: where a shot has a balance there are two. */
function Reads({ layer, stack }: { layer: KeyLayer; stack: Stack }) {
  return (
    <Tooltip title="Which picture the key reads">
      <Segmented
        size="small"
        aria-label="The key reads"
        options={[
          { value: 'balanced' as const, label: 'after balance' },
          { value: 'unbalanced' as const, label: 'before' },
        ]}
        value={layer.reads ?? 'balanced'}
        onChange={(reads) => void stack.setReads(layer, reads).catch(tellProblem)}
      />
    </Tooltip>
  );
}

/** A range key's hue and chroma on the field of the frame's colours. */
function RangeField({
  layer,
  stack,
  density,
}: {
  layer: RangeLayer;
  stack: Stack;
  density: ColourDensity | undefined;
}) {
  return (
    <>
      <KeyField
        value={layer.key!}
        density={density}
        onDrag={(key) => stack.dragLayer({ ...layer, key })}
        onSave={(what, key) => stack.saveLayer(`${layer.name}: ${what}`, { ...layer, key })}
      />
      {crossesNeutral(layer.key!) && (
        <div className="card" role="alert">
          ⚠ The chroma margin runs over the neutral axis: greys will come in and flicker. Raise chroma “from”, or narrow
          its margin.
        </div>
      )}
    </>
  );
}

/** Luma of the code values, or the eye's lightness. */
function LumaOf({ layer, stack }: { layer: LumaLayer; stack: Stack }) {
  const { of, luma } = layer.key!;
  return (
    <div style={{ marginBottom: 6 }}>
      <Segmented
        size="small"
        aria-label="Luma of"
        options={[
          { value: 'luma' as const, label: 'luma Y′' },
          { value: 'lightness' as const, label: 'lightness L' },
        ]}
        value={of}
        onChange={(next) => stack.solve({ ...layer, key: { of: next, luma } }, layer.picks, `${layer.name} on ${next}`)}
      />
    </div>
  );
}
