import { Button, Checkbox, Select, Space } from 'antd';
import type { BrushLayer, Follow, Layer, ScribbleLayer, ShapeLayer } from '@mellow/contract';
import {
  carriedBack,
  carriedThere,
  followedAt,
  ownGeometryAt,
  pathOf,
  strokeBack,
  strokeThere,
  STILL,
  withKeyframe,
  type Geometry,
  type Keyframe,
  type Place,
} from '@mellow/core';
import { frameOfStroke } from '../../commands/painting.ts';
import { ALL_MOTION, MOTION_PARTS } from '../../commands/tracks.ts';
import type { Tracks } from './useTracks.ts';
import { isKey } from '../../commands/layers.ts';
import type { Stack } from './useStack.ts';
import type { InHand } from '../../inhand/inHand.ts';

/** A rectangle does not stay one when it is carried; an ellipse does, but for a surface that bends. */
const asSpline = (g: Geometry): Geometry => (g.form === 'rectangle' ? { form: 'spline', points: pathOf(g) } : g);

/** A shape's path and its keyframes, each carried over on its own frame. */
function carried(
  layer: ShapeLayer,
  over: (geometry: Geometry, frame: number) => Geometry,
  frame: number,
): Pick<ShapeLayer, 'geometry' | 'paths'> {
  const to = (g: Geometry, f: number) => asSpline(over(asSpline(g), f));
  return {
    geometry: to(layer.geometry, frame),
    paths: layer.paths?.map((k) => ({ ...k, value: to(k.value, k.frame) })),
  };
}

type Drawn = ScribbleLayer | BrushLayer;
/** What is made of strokes. */
const isDrawn = (layer: Layer): layer is Drawn =>
  (layer.kind === 'scribble' && !layer.carried) || layer.kind === 'brush';
type StrokeMove = <S extends Drawn['strokes'][number]>(stroke: S, frame: number) => S;
/** Each stroke moved as on the frame in hand, or on the nearest that it is there on. */
function strokesMoved(layer: Drawn, frame: number, to: StrokeMove): Drawn {
  // a stroke that goes its own way goes on so
  if (layer.kind === 'scribble')
    return { ...layer, strokes: layer.strokes.map((s) => (s.follow === undefined ? to(s, frame) : s)) };
  return { ...layer, strokes: layer.strokes.map((s) => to(s, frameOfStroke(s, frame))) };
}

/** Which track the layer in hand rides on, and with which parts of its motion. */
export function FollowPanel({
  layer,
  stack,
  tracks,
  inHand,
}: {
  layer: Layer;
  stack: Stack;
  tracks: Tracks;
  inHand: InHand;
}) {
  const stored = stack.storedLayer(layer.id) ?? layer;
  if (stored.kind !== 'shape' && !isDrawn(stored) && !isKey(stored))
    return <div className="quiet">{layer.name} has no place of its own to follow a track with.</div>;
  const follow = stored.follow;
  const { frame } = stack;
  const { motions } = inHand;
  const placeIn = (of: Follow | undefined, f: number): Place => ({ placed: STILL, ...followedAt(of, f, motions) });
  const begin = (trackId: string) => {
    const of = tracks.tracks.find((t) => t.id === trackId);
    const next = { ...ALL_MOTION, ...(of?.freedom.flex && { flex: true }), trackId };
    const name = of?.name;
    if (isDrawn(stored))
      return stack.putLayer(`${layer.name} follows ${name}`, {
        ...strokesMoved(stored, frame, (s, f) => strokeBack(s, placeIn(next, f))),
        follow: next,
      });
    if (stored.kind !== 'shape') return stack.putLayer(`${layer.name} follows ${name}`, { ...stored, follow: next });
    // it stays where it is on this frame (and each keyframe on its own)
    stack.putLayer(`${layer.name} follows ${name}`, {
      ...stored,
      ...carried(stored, (g, f) => carriedBack(g, placeIn(next, f)), frame),
      follow: next,
    });
  };
  /** `bake`: a keyframe a frame, so that it stays where it was on each; else it stays where it was drawn. */
  const end = (bake: boolean) => {
    if (isDrawn(stored))
      return stack.putLayer(`${layer.name} no longer follows`, {
        ...strokesMoved(stored, frame, (s, f) => strokeThere(s, placeIn(follow, f))),
        follow: undefined,
      });
    if (stored.kind !== 'shape')
      return stack.putLayer(`${layer.name} no longer follows`, { ...stored, follow: undefined });
    const at = (g: Geometry, f: number) => carriedThere(g, placeIn(follow, f), true);
    if (!bake)
      return stack.putLayer(`${layer.name} no longer follows`, {
        ...stored,
        ...carried(stored, at, frame),
        follow: undefined,
      });
    let paths: Keyframe<Geometry>[] = [];
    for (let f = inHand.span?.from ?? 0; f <= (inHand.span?.to ?? 0); f++)
      paths = withKeyframe(paths, {
        frame: f,
        value: asSpline(at(asSpline(ownGeometryAt(stored, f)), f)),
        ease: 'linear',
      });
    stack.putLayer(`${layer.name} keeps its path on each frame`, {
      ...stored,
      geometry: paths[0]!.value,
      paths,
      follow: undefined,
    });
  };
  return (
    <section aria-label="Follow">
      <h2 style={{ margin: '10px 0 6px' }}>
        Follow <span className="quiet">{layer.name}</span>
      </h2>
      <Select
        size="small"
        aria-label={`${layer.name} follows`}
        style={{ width: '100%' }}
        value={follow?.trackId}
        placeholder="no track"
        disabled={tracks.tracks.length === 0 || follow !== undefined}
        options={tracks.tracks.map((t) => ({ value: t.id, label: t.name }))}
        onChange={begin}
      />
      {follow && (
        <>
          <Space wrap size={[10, 0]} style={{ margin: '6px 0' }} role="group" aria-label="Parts of the motion it takes">
            {MOTION_PARTS.map((part) => (
              <Checkbox
                key={part}
                checked={follow[part] ?? false}
                onChange={(e) =>
                  stack.putLayer(`${layer.name} ${e.target.checked ? 'takes' : 'leaves'} the ${part} of its track`, {
                    ...stored,
                    follow: { ...follow, [part]: e.target.checked },
                  })
                }
              >
                {part}
              </Checkbox>
            ))}
          </Space>
          <div className="row">
            {stored.kind === 'shape' ? (
              <>
                <Button size="small" onClick={() => end(true)}>
                  Stop, keep it on each frame
                </Button>
                <Button size="small" onClick={() => end(false)}>
                  Stop, as on this frame
                </Button>
              </>
            ) : (
              <>
                {isKey(layer) && (
                  <Button size="small" onClick={() => void stack.takeAnew(layer)}>
                    Take the picks anew here
                  </Button>
                )}
                <Button size="small" onClick={() => end(false)}>
                  {isDrawn(stored) ? 'Stop, as on this frame' : 'Stop following'}
                </Button>
              </>
            )}
          </div>
        </>
      )}
    </section>
  );
}
