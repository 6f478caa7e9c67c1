import { useAppSelector } from '../../../app/store.ts';
import { NumberRows, type NumberRow } from '../../../ui/NumberRows.tsx';
import type { ToolInHand } from './useTool.ts';

const DYE: NumberRow<'concentration'>[] = [
  { key: 'concentration', label: 'Dye', unit: '×', min: 0.1, max: 8, step: 0.01, digits: 2 },
];
/** More dye in the same cloth: richer and darker; less: paler and lighter. */
export function DyeTool({ tool }: { tool: ToolInHand<'dye'> }) {
  return (
    <>
      <div className="numbers">
        <NumberRows
          rows={DYE}
          values={tool.value}
          neutral={tool.neutral}
          of="finer.dye"
          onDrag={(key, v) => tool.set({ [key]: v }, 'drag')}
          onCommit={(key, v, what) => tool.set({ [key]: v }, 'done', what)}
        />
      </div>
      <div className="quiet">Above 1 richer and darker, below 1 paler and lighter. White stays white.</div>
    </>
  );
}

const TEXTURE: NumberRow<'softenPx' | 'colourPx' | 'sharpen'>[] = [
  { key: 'softenPx', label: 'Soften', unit: 'px', min: 0, max: 20, step: 0.1, digits: 1 },
  { key: 'colourPx', label: 'Soften colour', unit: 'px', min: 0, max: 20, step: 0.1, digits: 1 },
  { key: 'sharpen', label: 'Sharpen', unit: '%', min: 0, max: 200, step: 1, digits: 0, scale: 100 },
];
/** Inside the matte only. */
export function TextureTool({ tool }: { tool: ToolInHand<'texture'> }) {
  return (
    <>
      <div className="numbers">
        <NumberRows
          rows={TEXTURE}
          values={tool.value}
          neutral={tool.neutral}
          of="finer.texture"
          onDrag={(key, v) => tool.set({ [key]: v }, 'drag')}
          onCommit={(key, v, what) => tool.set({ [key]: v }, 'done', what)}
        />
      </div>
      <div className="quiet">Soften takes moiré away; soften colour takes colour noise and leaves the weave.</div>
    </>
  );
}

const GUARD: NumberRow<'knee'>[] = [
  { key: 'knee', label: 'Begins at', unit: '%', min: 0, max: 100, step: 1, digits: 0, scale: 100 },
];
/** Keeps colours inside what the shot's encoding can hold, and says how much of the piece it cuts off. */
export function GuardTool({ tool }: { tool: ToolInHand<'guard'> }) {
  const clipped = useAppSelector((s) => s.live?.resultClippedShare);
  return (
    <>
      <div className="numbers">
        <NumberRows
          rows={GUARD}
          values={tool.value}
          neutral={tool.neutral}
          of="finer.guard"
          onDrag={(key, v) => tool.set({ [key]: v }, 'drag')}
          onCommit={(key, v, what) => tool.set({ [key]: v }, 'done', what)}
        />
      </div>
      <div className="quiet" role="status">
        {clipped === undefined
          ? 'Nothing of the piece is measured on this frame.'
          : `${(100 * clipped).toFixed(1)} % of the piece is clipped on this frame.`}
      </div>
    </>
  );
}
