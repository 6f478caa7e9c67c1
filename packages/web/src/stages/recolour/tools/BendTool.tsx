import { Button } from 'antd';
import { BEND_HANDLES, oklabFromLinear709, oklchFromOklab, type BendName } from '@mellow/core';
import { useAppSelector } from '../../../app/store.ts';
import { NumberRows, type NumberRow } from '../../../ui/NumberRows.tsx';
import type { ToolInHand } from './useTool.ts';

const REACH: NumberRow<'reach'>[] = [
  { key: 'reach', label: 'Reach', unit: 'chroma', min: 0.01, max: 0.5, step: 0.002, digits: 3 },
];
const MOVES: NumberRow<'da' | 'db'>[] = [
  { key: 'da', label: 'green–red', unit: 'a', min: -1, max: 1, step: 0.001, digits: 3 },
  { key: 'db', label: 'blue–yellow', unit: 'b', min: -1, max: 1, step: 0.001, digits: 3 },
];

/** Handles that pull the plane of hue and chroma; they are dragged in the swing above. */
export function BendTool({ tool }: { tool: ToolInHand<'bend'> }) {
  const live = useAppSelector((s) => s.live);
  const { value, neutral, set } = tool;
  const free = BEND_HANDLES.find((name) => !value[name].on);
  const add = () => {
    if (!free) return;
    const { a, b } = live ? oklabFromLinear709(live.before.meanLinear) : { a: 0.1, b: 0 };
    set({ [free]: { on: true, a, b, da: 0, db: 0 } }, 'done', 'Add a handle to the bend');
  };
  const place = (name: BendName) => {
    const { C, hDeg } = oklchFromOklab({ L: 0, ...value[name] });
    return `hue ${hDeg.toFixed(0)}°, chroma ${C.toFixed(3)}`;
  };
  return (
    <>
      <div className="quiet">Pull the round handles in the swing. Grey stays grey.</div>
      <div className="row">
        <Button size="small" disabled={!free} onClick={add}>
          Add a handle at the piece’s colour
        </Button>
      </div>
      <div className="numbers">
        <NumberRows
          rows={REACH}
          values={value}
          neutral={neutral}
          of="finer.bend"
          nameOf={(label) => `Bend ${label.toLowerCase()}`}
          onDrag={(key, v) => set({ [key]: v }, 'drag')}
          onCommit={(key, v, what) => set({ [key]: v }, 'done', what)}
        />
      </div>
      {BEND_HANDLES.filter((name) => value[name].on).map((name) => (
        <section key={name}>
          <h2>
            {place(name)}
            <span style={{ flex: 1 }} />
            <Button
              size="small"
              type="text"
              onClick={() => set({ [name]: neutral[name] }, 'done', 'Take a handle off the bend')}
            >
              Take off
            </Button>
          </h2>
          <div className="numbers">
            <NumberRows
              rows={MOVES}
              values={value[name]}
              neutral={neutral[name]}
              of={`finer.bend.${name}`}
              nameOf={(label) => `Bend ${name} ${label}`}
              onDrag={(key, v) => set({ [name]: { ...value[name], [key]: v } }, 'drag')}
              onCommit={(key, v, what) => set({ [name]: { ...value[name], [key]: v } }, 'done', what)}
            />
          </div>
        </section>
      ))}
    </>
  );
}
