import { Segmented } from 'antd';
import { useState } from 'react';
import type { Rgb } from '@mellow/core';
import { CurveEditor } from '../../../ui/CurveEditor.tsx';
import type { ToolInHand } from './useTool.ts';

/** A curve on lightness: hue and saturation stay. */
export function ToneTool({ tool }: { tool: ToolInHand<'tone'> }) {
  return <CurveEditor of="finer.tone" name="Tone curve" value={tool.value} neutral={tool.neutral} onSet={tool.set} />;
}

const CHANNELS = ['red', 'green', 'blue'] as const satisfies (keyof Rgb)[];
/** A curve on the codes of each channel. */
export function ChannelsTool({ tool }: { tool: ToolInHand<'channels'> }) {
  const [shown, setShown] = useState<keyof Rgb>('red');
  return (
    <>
      <Segmented size="small" aria-label="Which channel" options={[...CHANNELS]} value={shown} onChange={setShown} />
      <CurveEditor
        of={`finer.channels.${shown}`}
        name={`Curve of ${shown}`}
        value={tool.value[shown]}
        neutral={tool.neutral[shown]}
        onSet={(next, phase, what) => tool.set({ [shown]: next }, phase, what)}
      />
    </>
  );
}
