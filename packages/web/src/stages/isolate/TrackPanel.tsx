import { Button, Checkbox, Input, Progress, Select, Space, Switch, Tooltip } from 'antd';
import {
  ArrowLeftToLine,
  ArrowRightToLine,
  ChevronsLeft,
  ChevronsLeftRight,
  ChevronsRight,
  KeyRound,
  Pin,
  Plus,
  StepForward,
  Trash2,
} from 'lucide-react';
import type { Track } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { moved } from '../../view/whereSlice.ts';
import { toolChosen, drawingFor } from '../../view/handSlice.ts';
import { MOTION_PARTS } from '../../commands/tracks.ts';
import type { Tracks } from './useTracks.ts';

/** Tracks of the shot: which, what it may do, running it, keyframes over it, hold-outs. */
export function TrackPanel({ tracks: t }: { tracks: Tracks }) {
  const dispatch = useAppDispatch();
  const drawFor = useAppSelector((s) => s.hand.drawFor);
  const held = useAppSelector((s) => s.where.pinTrack);
  const { track, frame, last } = t;
  const draw = (what: 'track' | 'hold-out') => {
    dispatch(drawingFor(what));
    dispatch(toolChosen('rectangle'));
  };
  return (
    <section aria-label="Tracks">
      <h2 style={{ marginBottom: 8 }}>
        Track
        <span style={{ flex: 1 }} />
        <Button size="small" icon={<Plus size={14} />} onClick={() => draw('track')}>
          New track
        </Button>
      </h2>
      {(drawFor === 'track' || drawFor === 'hold-out') && (
        <div className="card">
          Draw the {drawFor === 'track' ? 'region to follow' : 'part that must not be looked at'}: rectangle, ellipse or
          spline. Texture-rich and on the same surface is best.{' '}
          <Button size="small" onClick={() => dispatch(drawingFor('layer'))}>
            Leave it
          </Button>
        </div>
      )}
      {!track && drawFor !== 'track' && (
        <div className="quiet">
          No track in this shot yet. Go to the frame where the surface is seen best and draw a region on it; it need not
          be the piece itself.
        </div>
      )}
      {track && (
        <>
          <div className="row">
            <Select
              size="small"
              aria-label="Track in hand"
              style={{ flex: 1 }}
              value={track.id}
              options={t.tracks.map((each) => ({ value: each.id, label: each.name }))}
              onChange={(id) => dispatch(moved({ trackId: id }))}
            />
            <Tooltip title="Hold the track still in the view">
              <Button
                size="small"
                icon={<Pin size={14} />}
                aria-label="Hold the track still"
                aria-pressed={held}
                type={held ? 'primary' : 'text'}
                onClick={() => dispatch(moved({ pinTrack: !held, trackId: track.id }))}
              />
            </Tooltip>
            <Button
              size="small"
              type="text"
              icon={<Trash2 size={14} />}
              aria-label={`Remove ${track.name}`}
              onClick={() => t.remove(track)}
            />
          </div>
          <Named track={track} t={t} />
          <Space wrap size={[10, 0]} style={{ margin: '6px 0' }} role="group" aria-label="The track may">
            {MOTION_PARTS.map((part) => (
              <Checkbox
                key={part}
                title={part === 'flex' ? 'How a soft surface bends beyond its plane motion' : undefined}
                checked={track.freedom[part] ?? false}
                onChange={(e) =>
                  t.save(`${track.name}: ${part} ${e.target.checked ? 'on' : 'off'}`, {
                    ...track,
                    freedom: { ...track.freedom, [part]: e.target.checked },
                  })
                }
              >
                {part}
              </Checkbox>
            ))}
          </Space>
          <Running t={t} />
          <div className="row" style={{ marginTop: 6 }}>
            <span className="quiet grow">{t.now ? `frame ${frame}: ${stateText(t)}` : ''}</span>
            <Tooltip title="Keyframe over the track on this frame: drag the region to correct it">
              <Button
                size="small"
                icon={<KeyRound size={13} />}
                aria-label={
                  track.manual.some((m) => m.frame === frame)
                    ? 'Take away the keyframe of the track here'
                    : 'Set a keyframe of the track here'
                }
                type={track.manual.some((m) => m.frame === frame) ? 'primary' : 'default'}
                onClick={t.keyframeHere}
              />
            </Tooltip>
            <Tooltip title={`Bin frames up to ${frame}`}>
              <Button
                size="small"
                icon={<ArrowLeftToLine size={14} />}
                aria-label="Bin the track up to here"
                onClick={() => t.bin('up to')}
              />
            </Tooltip>
            <Tooltip title={`Bin frames from ${frame} on`}>
              <Button
                size="small"
                icon={<ArrowRightToLine size={14} />}
                aria-label="Bin the track from here on"
                onClick={() => t.bin('from')}
              />
            </Tooltip>
          </div>
          <h2 style={{ margin: '10px 0 4px' }}>
            Hold-outs
            <span style={{ flex: 1 }} />
            <Button size="small" icon={<Plus size={14} />} onClick={() => draw('hold-out')}>
              Hold-out
            </Button>
          </h2>
          {track.holdOuts.length === 0 && <div className="quiet">None. Draw one over what crosses in front.</div>}
          {track.holdOuts.map((h) => (
            <div className="row" key={h.id}>
              <Switch
                size="small"
                aria-label={`${h.name} on`}
                checked={h.on}
                onChange={(on) =>
                  t.save(`Turn ${h.name} ${on ? 'on' : 'off'}`, {
                    ...track,
                    holdOuts: track.holdOuts.map((x) => (x.id === h.id ? { ...x, on } : x)),
                  })
                }
              />
              <span className="grow">
                {h.name}
                {h.paths ? `, ${h.paths.length} keyframes` : ''}
              </span>
              <Button
                size="small"
                type="text"
                icon={<Trash2 size={14} />}
                aria-label={`Remove ${h.name}`}
                onClick={() =>
                  t.save(`Remove ${h.name}`, { ...track, holdOuts: track.holdOuts.filter((x) => x.id !== h.id) })
                }
              />
            </div>
          ))}
          <Button size="small" style={{ marginTop: 6 }} onClick={t.saveData}>
            Save its motion, frame by frame (JSON)
          </Button>
          <div className="quiet" style={{ marginTop: 6 }}>
            Drawn on frame {track.referenceFrame}, of {last + 1}.
          </div>
        </>
      )}
    </section>
  );
}

function Named({ track, t }: { track: Track; t: Tracks }) {
  return (
    <Input
      size="small"
      aria-label="Track name"
      key={track.name}
      defaultValue={track.name}
      maxLength={120}
      style={{ marginTop: 6 }}
      onBlur={(e) => {
        const name = e.target.value.trim();
        if (name && name !== track.name) t.save(`Rename ${track.name}`, { ...track, name });
      }}
    />
  );
}

const stateText = ({ now, runs, track, frame }: Tracks): string => {
  const stop = runs
    .filter((r) => track?.runs.some((x) => x.id === r.runId))
    .find((r) => r.stopped?.frame === frame)?.stopped;
  if (stop && now?.state !== 'tracked' && now?.state !== 'manual') return `stopped here: ${stop.reason}`;
  if (now?.state === 'tracked') return `tracked, confidence ${now.confidence.toFixed(2)}`;
  if (now?.state === 'manual') return 'set by hand';
  return now?.state === 'between' ? 'between known frames' : 'not tracked: held';
};

function Running({ t }: { t: Tracks }) {
  const { job, frame, last, nextManual, run } = t;
  if (job)
    return (
      <div className="row" aria-live="polite">
        <Progress
          percent={Math.round((100 * job.done) / Math.max(job.total, 1))}
          size="small"
          style={{ flex: 1, margin: 0 }}
          strokeColor="currentColor"
        />
        <Tooltip title="What is found stays; track on from any frame">
          <Button size="small" onClick={t.cancel}>
            Stop
          </Button>
        </Tooltip>
      </div>
    );
  const button = (label: string, icon: React.ReactNode, spans: { from: number; to: number }[], off = false) => (
    <Tooltip title={label}>
      <Button
        size="small"
        icon={icon}
        aria-label={label}
        disabled={off || spans.every((s) => s.from === s.to)}
        onClick={() => void run(spans)}
      />
    </Tooltip>
  );
  return (
    <Space.Compact block>
      {button('Track backward', <ChevronsLeft size={15} />, [{ from: frame, to: 0 }])}
      {button('Track one frame backward', <StepForward size={13} style={{ transform: 'scaleX(-1)' }} />, [
        { from: frame, to: Math.max(frame - 1, 0) },
      ])}
      {button('Track both ways', <ChevronsLeftRight size={15} />, [
        { from: frame, to: last },
        { from: frame, to: 0 },
      ])}
      {button('Track one frame forward', <StepForward size={13} />, [{ from: frame, to: Math.min(frame + 1, last) }])}
      {button('Track forward', <ChevronsRight size={15} />, [{ from: frame, to: last }])}
      {button(
        'Track to the next keyframe',
        <KeyRound size={13} />,
        [{ from: frame, to: Math.max((nextManual ?? frame) - 1, frame) }],
        nextManual === undefined,
      )}
    </Space.Compact>
  );
}
