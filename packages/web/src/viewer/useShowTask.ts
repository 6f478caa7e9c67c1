import { useMemo } from 'react';
import { framesOf, lookOfShot, type CubeFile, type ProjectDocument, type Shot } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';
import { isLookOn } from '../commands/looks.ts';
import { addressOf } from '../data/requests.ts';
import type { LookRef, Show, ShowTask } from '../engine/frameProtocol.ts';
import { frameSceneAt, layerOn, withoutRecolour, type Looked } from '../inhand/frameScene.ts';
import { againstScene } from '../inhand/against.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useIsMoving } from '../inhand/useIsMoving.ts';

const tableUrl = ({ sha256 }: CubeFile): string => addressOf('cube', { sha256 });
/** A shot's look as a worker loads it; undefined where it is off or there is none. */
function lookIn(document: ProjectDocument, shot: Shot): LookRef | undefined {
  const look = lookOfShot(document.project.value, shot);
  if (!look || !isLookOn(document)) return undefined;
  return {
    ...(look.cdl && { cdl: look.cdl }),
    ...(look.curves && { curves: look.curves }),
    ...(look.cube && { tableUrl: tableUrl(look.cube) }),
  };
}

/** The frames beside one that have the piece in hand too, where the shot goes on. */
function besideOf(looked: Looked, frame: number): ShowTask['beside'] {
  const span = framesOf(looked.shot, looked.media);
  const at = (f: number) => {
    if (f < span.from || f > span.to) return undefined;
    const scene = frameSceneAt(looked, f, false);
    return scene.index < 0 ? undefined : scene;
  };
  return { before: at(frame - 1), after: at(frame + 1) };
}

function memoised<V>(make: (at: number) => V): (at: number) => V {
  const made = new Map<number, V>();
  return (at) => {
    if (!made.has(at)) made.set(at, make(at));
    return made.get(at)!;
  };
}
/** A tint adds its own colour to the picture: it steps aside while the colour moves. */
function shownAs(view: Show, isSourceHeld: boolean, isRecolouring: boolean): Show {
  if (isSourceHeld) return 'Source';
  return view === 'Tint' && isRecolouring ? 'Result' : view;
}

/** What the picture in hand is shown as. */
export function useShow(): Show {
  const view = useAppSelector((s) => s.look.view);
  const isSourceHeld = useAppSelector((s) => s.hand.sourceHeld);
  const isRecolouring = useAppSelector((s) => s.draft.recipe !== undefined);
  return shownAs(view, isSourceHeld, isRecolouring);
}

/** The task of a frame that is only passed: nothing is measured on it, nor looked at beside it. */
export function asPassed({ beside: _beside, onTheWay: _onTheWay, ...task }: ShowTask): ShowTask {
  return { ...task, measure: false };
}

/**
 * What is to be computed for any frame of the shot in hand, as one looks at it now; undefined while it has no proxies.
 */
export function useShowTask(inHand: InHand): (frame: number) => ShowTask | undefined {
  const { document, shot, media, piece, colourwayId, sighting, motions } = inHand;
  const { tint, ground, compare, against, scope: scopes, exposureStops, beside } = useAppSelector((s) => s.look);
  const { kind: scopeKind, part: scopePart } = scopes;
  const hasScope = scopes.place !== 'off';
  const soloId = useAppSelector((s) => s.where.soloId);
  const isSourceHeld = useAppSelector((s) => s.hand.sourceHeld);
  const near = useAppSelector((s) => s.pointed.near) ?? undefined;
  const playing = useAppSelector((s) => s.playing);
  const recolourOff = useAppSelector((s) => s.hand.recolourOff);
  // a matte that is changed is shown without the frames around it: quicker; a colour that is changed leaves it steady
  const steady = useAppSelector(({ draft }) => !draft.sighting && !draft.track && !draft.balance);
  const show = useShow();
  const isMoving = useIsMoving();
  // while frames pass the matte alone is looked at
  const withBeside = beside && show === 'Matte' && soloId === null && !playing;
  const soloed = sighting?.layers.find((l) => l.id === soloId);
  const layerId = useAppSelector((s) => s.where.layerId);
  const inHandLayer = sighting?.layers.find((l) => l.id === layerId) ?? sighting?.layers[0];
  const besides = against.kind === 'layer' ? inHandLayer : undefined;
  const withSource = compare !== 'off' && !isSourceHeld;
  const pieceId = piece?.id;
  // a frame's task is put together once for as long as what it depends on stays
  return useMemo(
    () =>
      memoised((frame: number): ShowTask | undefined => {
        if (!shot || !media || document.proxies[media.id]?.state !== 'done') return undefined;
        const looked = { document, shot, media, colourwayId, pieceId, motions };
        const whole = frameSceneAt(looked, frame, steady);
        const scene = withoutRecolour(whole, recolourOff);
        const solo = soloed && layerOn(document, soloed, frame, motions);
        const measure = scene.index >= 0 && !playing;
        const other = withSource ? againstScene(looked, frame, against) : undefined;
        const againstLayer = withSource && besides ? layerOn(document, besides, frame, motions) : undefined;
        const ghosts = withBeside ? { beside: besideOf(looked, frame) } : {};
        const scope = hasScope ? { kind: scopeKind, part: scopePart } : undefined;
        const { viewTable } = document.project.value;
        const seen = { look: lookIn(document, shot), viewTableUrl: viewTable ? tableUrl(viewTable) : undefined };
        const compared = { withSource, against: other, againstLayer };
        const lit = exposureStops === 0 ? {} : { stops: exposureStops };
        const figures = measure && isMoving ? { measure, onTheWay: true } : { measure };
        return {
          kind: 'show',
          ...scene,
          ...compared,
          ...ghosts,
          show,
          solo,
          tint,
          ground,
          ...figures,
          near,
          scope,
          ...seen,
          ...lit,
        };
      }),
    [
      document,
      shot,
      media,
      colourwayId,
      pieceId,
      motions,
      steady,
      soloed,
      show,
      isMoving,
      tint,
      ground,
      withSource,
      against,
      besides,
      near,
      withBeside,
      playing,
      recolourOff,
      hasScope,
      scopeKind,
      scopePart,
      exposureStops,
    ],
  );
}
