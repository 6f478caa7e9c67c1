import { InputNumber, Segmented } from 'antd';
import type { PaintedOn } from '../../commands/painting.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { brushSet, FIRST_BRUSH, toolChosen, type ToolName } from '../../view/handSlice.ts';

const SIZE = { min: 1, max: 2000 };
/** A step of the brush's size by key. */
const LARGER = 1.2;
const ROWS: NumberRow<'widthPx' | 'softness' | 'flow'>[] = [
  { key: 'widthPx', label: 'Size', unit: 'px', ...SIZE, step: 1, digits: 0, useful: [1, 200] },
  { key: 'softness', label: 'Soft edge', unit: '%', min: 0, max: 100, step: 1, digits: 0, scale: 100 },
  { key: 'flow', label: 'Flow', unit: '%', min: 1, max: 100, step: 1, digits: 0, scale: 100 },
];
const TOOLS: { value: ToolName; label: string }[] = [
  { value: 'brush-in', label: 'in' },
  { value: 'brush-out', label: 'out' },
  { value: 'brush-smooth', label: 'smooth' },
];
const WHEN: PaintedOn[] = ['this frame', 'from here on', 'a run', 'all frames'];

/** The brush that paints next, and the frames it paints on. */
export function BrushSettings({ inHand: { span } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const brush = useAppSelector((s) => s.hand.brush);
  const tool = useAppSelector((s) => s.hand.tool);
  const { widthPx } = brush;
  const sized = (to: number) => dispatch(brushSet({ widthPx: Math.min(Math.max(Math.round(to), SIZE.min), SIZE.max) }));
  // a pixel at least, or a small brush would stay as it is
  useCommands({
    brushLarger: { run: () => sized(Math.max(widthPx * LARGER, widthPx + 1)) },
    brushSmaller: { run: () => sized(Math.min(widthPx / LARGER, widthPx - 1)) },
  });
  const frame = (end: 'from' | 'to') => (
    <InputNumber
      size="small"
      aria-label={end === 'from' ? 'First frame painted' : 'Last frame painted'}
      min={span?.from ?? 0}
      max={span?.to ?? 0}
      precision={0}
      value={brush.run[end]}
      onChange={(value) => value !== null && dispatch(brushSet({ run: { ...brush.run, [end]: value } }))}
    />
  );
  return (
    <section aria-label="Brush">
      <div className="row">
        <Segmented
          size="small"
          aria-label="The brush paints"
          options={TOOLS}
          value={tool}
          onChange={(chosen) => dispatch(toolChosen(chosen))}
        />
      </div>
      <div className="numbers">
        <NumberRows
          rows={ROWS}
          values={brush}
          neutral={FIRST_BRUSH}
          nameOf={(label) => `Brush ${label.toLowerCase()}`}
          onDrag={(key, value) => dispatch(brushSet({ [key]: value }))}
          onCommit={(key, value) => dispatch(brushSet({ [key]: value }))}
        />
      </div>
      <div className="row">
        <Segmented
          size="small"
          aria-label="Painted on"
          options={WHEN}
          value={brush.on}
          onChange={(on) => dispatch(brushSet({ on }))}
        />
      </div>
      {brush.on === 'a run' && (
        <div className="row">
          frames {frame('from')} to {frame('to')}
        </div>
      )}
    </section>
  );
}
