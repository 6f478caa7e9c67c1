import { useSortable } from '@dnd-kit/react/sortable';
import { Dropdown } from 'antd';
import { useRef, type MouseEvent } from 'react';
import { useNavigate } from 'react-router';
import { shotTrust } from '@mellow/core';
import {
  framesOf,
  type Note,
  type Shot,
  type Sighting,
  type SightingMeasurements,
  type StandingVerdict,
} from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import type { InHand } from '../inhand/inHand.ts';
import { AtShot } from '../people/AtShot.tsx';
import { DeltaE } from '../ui/DeltaE.tsx';
import { notesText, notesTitle, verdictText, verdictTitle } from '../inhand/reviewed.ts';
import { STATE_TEXT } from '../ui/stateText.ts';
import { useDrawn } from '../ui/useDrawn.ts';
import { moved } from '../view/whereSlice.ts';
import { drawBand, frameAt } from './band.ts';
import { RibbonPicture } from './RibbonPicture.tsx';
import { useShotMenu } from './useShotMenu.ts';

interface Props {
  at: number;
  shot: Shot;
  inHand: InHand;
  sighting: Sighting | undefined;
  measured: SightingMeasurements | undefined;
  required: string | null;
  deltaE: number | undefined;
  tolerance: number;
  verdict: StandingVerdict | undefined;
  /** Of the shot, still to be seen to. */
  notes: readonly Note[];
}

/** One shot of the reel: its picture, how the piece stands there, and its measured colours. */
export function RibbonCell({ at, shot, inHand, notes, ...seen }: Props) {
  const { sighting, measured, required, deltaE, tolerance, verdict } = seen;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const band = useRef<HTMLCanvasElement>(null);
  const { ref, isDragging } = useSortable({ id: shot.id, index: at });
  const { document, piece } = inHand;
  const { from, to } = framesOf(
    shot,
    document.media.find((m) => m.id === shot.mediaId)!,
  );
  const frames = to - from + 1;
  const noted = notes.map((n) => n.frame);
  const isSighted = (sighting?.layers.length ?? 0) > 0;
  useDrawn(
    band,
    (own) => drawBand(own, { first: from, frames, isSighted, measured: measured?.frames ?? [], required, noted }),
    [measured, from, frames, isSighted, required, noted],
  );
  const go = (e: MouseEvent) => {
    const box = band.current!.getBoundingClientRect();
    const isOnBand = e.detail > 0 && e.clientY >= box.top;
    const frame = from + frameAt((e.clientX - box.left) / box.width, frames);
    dispatch(moved({ shotId: shot.id, ...(isOnBand && { frame }) }));
  };
  const open = () => void navigate(`/projects/${shot.projectId}/isolate`);
  const says = isSighted ? 'Double click: isolate' : `${piece?.name ?? 'The piece'} is not isolated in ${shot.name}`;
  /** A mark, and words where there is room for them. */
  const standing = isSighted && (verdict ? verdictText(verdict) : STATE_TEXT[sighting!.state]);
  return (
    <Dropdown trigger={['contextMenu']} menu={useShotMenu(inHand, shot, at)}>
      <button
        ref={ref}
        type="button"
        className={`ribbon-cell ${isDragging ? 'dragged' : ''}`}
        aria-current={shot.id === inHand.shot?.id}
        style={{ flexGrow: frames }}
        title={says}
        onClick={go}
        onDoubleClick={open}
      >
        <span className="ribbon-top">
          <RibbonPicture shot={shot} inHand={inHand} isSighted={isSighted} />
          <span className="ribbon-text">
            <span className="row">
              <strong className="shorten grow">{shot.name}</strong>
              <AtShot shotId={shot.id} />
            </span>
            <span className="ribbon-says">
              {isSighted ? (
                <DeltaE
                  value={deltaE}
                  tolerance={tolerance}
                  trust={measured && shotTrust(measured.frames)}
                  fresh={measured?.fresh ?? false}
                  room="figure"
                />
              ) : (
                <span className="quiet">not isolated</span>
              )}
              {notes.length > 0 && <span title={notesTitle(notes)}>{notesText(notes)}</span>}
              {standing && (
                <>
                  <span className="quiet" title={verdict ? verdictTitle(verdict) : standing}>
                    {standing.slice(0, 1)}
                  </span>
                  <span className="quiet">{standing.slice(2)}</span>
                </>
              )}
            </span>
          </span>
        </span>
        <canvas ref={band} className="ribbon-band" />
      </button>
    </Dropdown>
  );
}
