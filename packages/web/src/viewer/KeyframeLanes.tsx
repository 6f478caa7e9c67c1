import { Button, Dropdown } from 'antd';
import { KeyTip } from '../keys/KeyTip.tsx';
import { ChevronLeft, ChevronRight, Ellipsis } from 'lucide-react';
import { useRef, useState, type PointerEvent } from 'react';
import { frameCount, within, type Span } from '@mellow/contract';
import { EASES, movedKeyframes, withKeyframe, withoutFrames, type Keyframe } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { moved } from '../view/whereSlice.ts';
import { keyframesChosen } from '../view/keyframingSlice.ts';
import { useFrameInSight } from '../inhand/passing.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { useCommands } from '../keys/useCommands.ts';
import { chosenKeyframe, chosenOf, laneRows, nextKeyframe, type Lane, type Strip } from './lanes.ts';

/** Keyframes copied, by lane, as frames after the first of them. */
let copied: { lane: string; keys: Keyframe<unknown>[] }[] = [];

/** Under the ruler: a lane of keyframes for each animated thing, and strips of what was found per frame. */
export default function KeyframeLanes({
  lanes,
  strips,
  span,
}: {
  lanes: readonly Lane[];
  strips: readonly Strip[];
  span: Span;
}) {
  const dispatch = useAppDispatch();
  const frame = useFrame({ span });
  const chosen = useAppSelector((s) => s.keyframing.chosen);
  const choose = (next: string[]) => dispatch(keyframesChosen(next));
  const goTo = (way: 1 | -1) => {
    const to = nextKeyframe(lanes, frame, way);
    if (to !== undefined) dispatch(moved({ frame: to }));
  };
  const some = chosen.length > 0;
  /** Applies a change of keyframes to every lane where some are chosen (or, with none chosen, to all lanes). */
  const onLanes = (
    step: string,
    change: (keys: readonly Keyframe<unknown>[], picked: Set<number>) => readonly Keyframe<unknown>[],
    all = false,
  ) => {
    for (const lane of lanes) {
      const picked = chosenOf(chosen, lane.id);
      if (picked.size > 0 || all) lane.put(`${step} of ${lane.label}`, change(lane.keys, picked));
    }
    choose([]);
  };
  const remove = () => onLanes('Delete keyframes', (keys, picked) => withoutFrames(keys, (f) => picked.has(f)));
  const copy = () => {
    const first = Math.min(...lanes.flatMap((l) => [...chosenOf(chosen, l.id)]));
    copied = lanes.flatMap((l) => {
      const picked = chosenOf(chosen, l.id);
      return picked.size === 0
        ? []
        : [
            {
              lane: l.id,
              keys: l.keys.filter((k) => picked.has(k.frame)).map((k) => ({ ...k, frame: k.frame - first })),
            },
          ];
    });
  };
  const paste = () => {
    for (const lane of lanes) {
      const keys =
        copied.find((c) => c.lane === lane.id)?.keys ??
        (copied.length === 1 && lanes.length === 1 ? copied[0]!.keys : []);
      if (keys.length > 0)
        lane.put(
          `Paste keyframes of ${lane.label}`,
          keys.reduce((all, k) => withKeyframe(all, { ...k, frame: k.frame + frame }), lane.keys),
        );
    }
  };
  const isAny = lanes.some((l) => l.keys.length > 0);
  const none = some ? undefined : 'no keyframe chosen';
  useCommands({
    previousKeyframe: { run: () => goTo(-1), cannot: isAny ? undefined : 'no keyframes' },
    nextKeyframe: { run: () => goTo(1), cannot: isAny ? undefined : 'no keyframes' },
    ...(some && { removeChosen: { run: remove } }),
    copyKeyframes: { run: copy, cannot: none },
    pasteKeyframes: { run: paste, cannot: copied.length > 0 ? undefined : 'none copied' },
  });
  const [folded, setFolded] = useState<readonly string[]>([]);
  const rows = laneRows(lanes, folded);
  const items = [
    ...EASES.map((ease) => ({
      key: ease,
      label: `Chosen go on ${ease === 'hold' ? 'unchanged (hold)' : ease}`,
      disabled: !some,
    })),
    { key: 'copy', label: 'Copy chosen', disabled: !some },
    { key: 'paste', label: 'Paste on this frame' },
    { key: 'delete', label: 'Delete chosen', disabled: !some },
    { key: 'from', label: `Delete all from frame ${frame} on` },
    { key: 'upto', label: `Delete all up to frame ${frame}` },
  ];
  const act: Record<string, () => void> = {
    copy,
    paste,
    delete: remove,
    from: () =>
      onLanes(`Delete keyframes from frame ${frame} on`, (keys) => withoutFrames(keys, (f) => f >= frame), true),
    upto: () =>
      onLanes(`Delete keyframes up to frame ${frame}`, (keys) => withoutFrames(keys, (f) => f <= frame), true),
  };
  for (const ease of EASES)
    act[ease] = () =>
      onLanes(`Keyframes go on ${ease}`, (keys, picked) =>
        keys.map((k) => (picked.has(k.frame) ? { ...k, ease: ease } : k)),
      );
  return (
    <Dropdown trigger={['contextMenu']} menu={{ items, onClick: ({ key }) => act[key]?.() }}>
      <div className="lanes" role="group" aria-label="Keyframe lanes">
        {strips.map((s) => (
          <StripRow key={s.label} strip={s} span={span} frame={frame} />
        ))}
        {rows.map(({ lane, group, isFolded }, i) => (
          <div className="lane" key={lane.id}>
            <span className="lane-label" title={lane.label}>
              {group && (
                <button
                  type="button"
                  className="lane-fold"
                  aria-expanded={!isFolded}
                  aria-label={`Lanes of ${group}`}
                  onClick={() => setFolded(isFolded ? folded.filter((g) => g !== group) : [...folded, group])}
                >
                  {isFolded ? '▸' : '▾'}
                </button>
              )}
              {lane.label}
            </span>
            {isFolded ? (
              <FoldedRow lane={lane} span={span} onGo={(to) => dispatch(moved({ frame: to }))} />
            ) : (
              <LaneRow
                lane={lane}
                span={span}
                chosen={chosenOf(chosen, lane.id)}
                onChoose={(frames_, more) =>
                  choose([...(more ? chosen : []), ...frames_.map((f) => chosenKeyframe(lane.id, f))])
                }
              />
            )}
            <span className="lane-end">
              {i === 0 && (
                <>
                  <KeyTip id="previousKeyframe" title="Previous keyframe">
                    <Button size="small" type="text" aria-label="Previous keyframe" onClick={() => goTo(-1)}>
                      <ChevronLeft size={13} />
                    </Button>
                  </KeyTip>
                  <KeyTip id="nextKeyframe" title="Next keyframe">
                    <Button size="small" type="text" aria-label="Next keyframe" onClick={() => goTo(1)}>
                      <ChevronRight size={13} />
                    </Button>
                  </KeyTip>
                  <Dropdown
                    trigger={['click']}
                    placement="topRight"
                    menu={{ items, onClick: ({ key }) => act[key]?.() }}
                  >
                    <Button size="small" type="text" aria-label="Keyframes">
                      <Ellipsis size={13} />
                    </Button>
                  </Dropdown>
                </>
              )}
            </span>
          </div>
        ))}
      </div>
    </Dropdown>
  );
}

function LaneRow({
  lane,
  span,
  chosen,
  onChoose,
}: {
  lane: Lane;
  span: Span;
  chosen: Set<number>;
  onChoose: (frames: number[], more: boolean) => void;
}) {
  const row = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ from: number; by: number; picked: Set<number> }>();
  const frameAt = (e: PointerEvent) => {
    const box = row.current!.getBoundingClientRect();
    return span.from + Math.floor(((e.clientX - box.left) / box.width) * frameCount(span));
  };
  const down = (e: PointerEvent<HTMLButtonElement>, f: number) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    const picked = chosen.has(f) ? chosen : new Set(e.shiftKey ? [...chosen, f] : [f]);
    if (!chosen.has(f)) onChoose([f], e.shiftKey);
    setDrag({ from: frameAt(e), by: 0, picked });
  };
  const up = () => {
    if (drag && drag.by !== 0) {
      lane.put(
        `Move keyframes of ${lane.label}`,
        movedKeyframes(lane.keys, (f) => drag.picked.has(f), drag.by),
      );
      onChoose(
        [...drag.picked].map((f) => Math.max(f + drag.by, 0)),
        false,
      );
    }
    setDrag(undefined);
  };
  return (
    <div className="lane-row" ref={row}>
      <LaneNow span={span} />
      {shownKeys(lane, span).map((k) => {
        const at = drag?.picked.has(k.frame) ? k.frame + drag.by : k.frame;
        return (
          <button
            key={k.frame}
            type="button"
            className={`lane-key ${k.ease}`}
            aria-pressed={chosen.has(k.frame)}
            aria-label={`Keyframe of ${lane.label}, frame ${k.frame}, ${k.ease}`}
            style={{ left: leftOf(at, span) }}
            onPointerDown={(e) => e.button === 0 && down(e, k.frame)}
            // the lanes' menu is about what is chosen
            onContextMenu={() => !chosen.has(k.frame) && onChoose([k.frame], false)}
            onPointerMove={(e) => drag && setDrag({ ...drag, by: frameAt(e) - drag.from })}
            onPointerUp={up}
          />
        );
      })}
    </div>
  );
}

interface FoldedProps {
  lane: Lane;
  span: Span;
  onGo: (frame: number) => void;
}
/** The keyframes of several lanes in one row: a press goes to the frame. */
function FoldedRow({ lane, span, onGo }: FoldedProps) {
  return (
    <div className="lane-row">
      <LaneNow span={span} />
      {shownKeys(lane, span).map((k) => (
        <button
          key={k.frame}
          type="button"
          className="lane-key"
          aria-label={`Go to frame ${k.frame}: keyframes of ${lane.label}`}
          style={{ left: leftOf(k.frame, span), cursor: 'pointer' }}
          onClick={() => onGo(k.frame)}
        />
      ))}
    </div>
  );
}

/** Where the middle of a frame lies along a row. */
const leftOf = (frame: number, span: Span): string => `${((frame - span.from + 0.5) / frameCount(span)) * 100}%`;
/** Keyframes beyond the shot's ends stay at work; they are not seen. */
const shownKeys = ({ keys }: Lane, span: Span) => keys.filter((k) => k.frame === within(span, k.frame));

/** Where one is along a row. */
function LaneNow({ span }: { span: Span }) {
  const { frame } = useFrameInSight({ span });
  return <i className="lane-now" style={{ left: leftOf(frame, span) }} />;
}
/** The same in a strip, whose frames are `w` wide. */
function StripNow({ span, w }: { span: Span; w: number }) {
  const { frame } = useFrameInSight({ span });
  return <rect x={(frame - span.from + 0.5) * w - 1} width={2} y={0} height={16} fill="currentColor" />;
}

function StripRow({ strip, span, frame }: { strip: Strip; span: Span; frame: number }) {
  const frames = frameCount(span);
  const w = 1000 / frames;
  const values = strip.values.slice(span.from, span.to + 1);
  const isShown = (f: number) => f === within(span, f);
  const xOf = (f: number) => (f - span.from) * w;
  const at = strip.values[frame];
  return (
    <div className="lane">
      <span className="lane-label" title={strip.title}>
        {strip.label}
      </span>
      <svg
        className="lane-row"
        viewBox="0 0 1000 16"
        preserveAspectRatio="none"
        role="img"
        aria-label={`${strip.label}: ${values.filter((v) => v !== undefined).length} of ${frames} frames`}
        data-strip={strip.label}
      >
        {values.map((v, f) =>
          v === undefined ? null : (
            <rect
              key={f}
              x={f * w}
              width={w * 0.86}
              y={15 - 13 * v}
              height={1 + 13 * v}
              fill="currentColor"
              opacity={0.75}
            />
          ),
        )}
        {strip.manual?.filter(isShown).map((f) => (
          <rect key={`m${f}`} x={xOf(f) + w * 0.3} width={w * 0.4} y={0} height={16} fill="currentColor" />
        ))}
        {strip.stops
          ?.filter((s) => isShown(s.frame))
          .map(({ frame: f, text }) => (
            <g key={`s${f}`}>
              <title>{text}</title>
              <rect x={xOf(f)} width={w} y={0} height={16} fill="none" stroke="currentColor" strokeDasharray="3 2" />
            </g>
          ))}
        <StripNow span={span} w={w} />
      </svg>
      <span className="lane-end mono quiet">{at === undefined ? '' : (strip.text?.(at) ?? at.toFixed(2))}</span>
    </div>
  );
}
