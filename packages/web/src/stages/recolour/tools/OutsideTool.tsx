import { Segmented } from 'antd';
import { useState } from 'react';
import { BandCurves } from './BandCurves.tsx';
import { PrimaryNumbers } from './PrimaryNumbers.tsx';
import type { ToolInHand } from './useTool.ts';

/** Corrects what no piece's matte selects; with no matte at all, the whole picture. */
export function OutsideTool({ tool }: { tool: ToolInHand<'outside'> }) {
  const [part, setPart] = useState<'primaries' | 'bands'>('primaries');
  const { value, neutral } = tool;
  return (
    <>
      <div className="quiet">What no piece’s matte selects. With no matte at all: the whole picture.</div>
      <Segmented
        size="small"
        aria-label="Outside: which tool"
        options={[
          { value: 'primaries', label: 'Primaries' },
          { value: 'bands', label: 'Hue bands' },
        ]}
        value={part}
        onChange={setPart}
      />
      {part === 'primaries' ? (
        <PrimaryNumbers
          of="finer.outside.primaries"
          name="Outside"
          value={value.primaries}
          neutral={neutral.primaries}
          onSet={(next, phase, what) => tool.set({ primaries: { ...value.primaries, ...next } }, phase, what)}
        />
      ) : (
        <BandCurves
          of="finer.outside.bands"
          name="Outside bands"
          value={value.bands}
          neutral={neutral.bands}
          onSet={(next, phase, what) => tool.set({ bands: { ...value.bands, ...next } }, phase, what)}
        />
      )}
    </>
  );
}
