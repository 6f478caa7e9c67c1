import { Button, Progress } from 'antd';
import { useAppDispatch } from '../../app/store.ts';
import { moved } from '../../view/whereSlice.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import type { Stack } from './useStack.ts';
import { summed } from './summed.ts';
import type { OverTime } from './useOverTime.ts';

/** The matte over time: steadying it, and the figures that say whether it holds. */
export function OverTimePanel({ stack, overTime }: { stack: Stack; overTime: OverTime }) {
  const dispatch = useAppDispatch();
  const { shown, saveSighting } = stack;
  const { frames, running, total, hasTrack, check, cancel } = overTime;
  const figure = (label: string, of: ReturnType<typeof summed>, digits: number, unit: string) =>
    of && (
      <div className="row" aria-label={label}>
        <span className="quiet" style={{ width: 60 }}>
          {label}
        </span>
        <span className="mono grow">
          {of.mean.toFixed(digits)}
          {unit} mean, {of.worst.toFixed(digits)}
          {unit} worst
        </span>
        <Button size="small" type="text" onClick={() => dispatch(moved({ frame: of.frame }))}>
          frame {of.frame}
        </Button>
      </div>
    );
  return (
    <section aria-label="Over time">
      <h2 style={{ margin: '10px 0 8px' }}>
        Steady <span className="quiet">the finished matte, over time</span>
      </h2>
      <div className="numbers">
        <NumberField
          label="Frames on either side"
          name="Steady over frames on either side"
          unit=""
          min={0}
          max={5}
          step={1}
          digits={0}
          value={shown?.steadyFrames ?? 0}
          neutral={0}
          onCommit={(v) => saveSighting('Steady', { steadyFrames: Math.round(v) })}
        />
      </div>
      <div className="row" style={{ margin: '6px 0' }}>
        {running ? (
          <>
            <Progress
              percent={Math.round((100 * (frames?.length ?? 0)) / Math.max(total, 1))}
              size="small"
              style={{ flex: 1, margin: 0 }}
              strokeColor="currentColor"
            />
            <Button size="small" onClick={cancel}>
              Stop
            </Button>
          </>
        ) : (
          <Button size="small" disabled={!shown} onClick={() => void check()}>
            Check how it holds
          </Button>
        )}
      </div>
      {frames ? (
        <>
          {figure(
            'Chatter',
            summed(frames, (h) => h.chatter),
            3,
            '',
          )}
          {figure(
            'Slip',
            summed(frames, (h) => h.slipPx),
            1,
            ' px',
          )}
        </>
      ) : (
        <div className="quiet">
          Goes through the shot: where the edge flickers
          {hasTrack ? ', and how far the matte slides against its track' : ''}.
        </div>
      )}
    </section>
  );
}
