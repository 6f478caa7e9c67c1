import { useRef } from 'react';
import type { ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { useMeasurementsQuery } from '../data/api.ts';
import { useAppDispatch } from '../app/store.ts';
import type { InHand } from '../inhand/inHand.ts';
import { moved } from '../view/whereSlice.ts';
import { shotTrust } from '@mellow/core';
import { afterOf, deltaEOf, measuredOf, requiredHex, toleranceOf } from '../ui/colour.ts';
import { drawBand, frameAt } from './band.ts';
import { DeltaE } from '../ui/DeltaE.tsx';
import { useDrawn } from '../ui/useDrawn.ts';

/** The piece's measured colour, frame by frame through all shots, as one band against the required colour. */
export function Ribbon({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId, requirement } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  if (document.shots.length === 0) return null;
  return (
    <nav className="ribbon" aria-label="Ribbon: measured colour of the piece through the shots">
      {document.shots.map(({ value: shot }) => {
        const media = document.media.find((m) => m.id === shot.mediaId)!;
        const sighting = document.sightings.find(
          (s) => s.value.shotId === shot.id && s.value.pieceId === piece?.id,
        )?.value;
        const measured = measuredOf(measurements, sighting?.id, colourwayId);
        return (
          <Cell
            key={shot.id}
            shot={shot}
            frames={media.frames}
            sighted={Boolean(sighting)}
            measured={measured}
            required={requiredHex(requirement, shot)}
            deltaE={deltaEOf(afterOf(measured, requirement), requirement, shot)}
            tolerance={toleranceOf(requirement, document.project.value.tolerance)}
            current={shot.id === inHand.shot?.id}
          />
        );
      })}
    </nav>
  );
}

interface CellProps {
  shot: ProjectDocument['shots'][number]['value'];
  frames: number;
  sighted: boolean;
  measured: SightingMeasurements | undefined;
  required: string | null;
  deltaE: number | undefined;
  tolerance: number;
  current: boolean;
}
function Cell({ shot, frames, sighted, measured, required, deltaE, tolerance, current }: CellProps) {
  const dispatch = useAppDispatch();
  const canvas = useRef<HTMLCanvasElement>(null);
  useDrawn(canvas, (own) => drawBand(own, { frames, isSighted: sighted, measured: measured?.frames ?? [], required }), [
    measured,
    frames,
    sighted,
    required,
  ]);
  const go = (e: React.MouseEvent) => {
    const box = canvas.current!.getBoundingClientRect();
    const isOnBand = e.detail > 0 && e.clientY >= box.top;
    const frame = frameAt((e.clientX - box.left) / box.width, frames);
    dispatch(moved({ shotId: shot.id, ...(isOnBand && { frame }) }));
  };
  return (
    <button
      type="button"
      className="ribbon-cell"
      aria-current={current}
      style={{ flex: sighted ? `${frames} 1 0` : '0 0 92px' }}
      title={sighted ? undefined : `The piece is not isolated in ${shot.name}`}
      onClick={go}
    >
      <header>
        <strong>{shot.name}</strong>
        {sighted && (
          <DeltaE
            value={deltaE}
            tolerance={tolerance}
            trust={measured && shotTrust(measured.frames)}
            fresh={measured?.fresh ?? false}
          />
        )}
      </header>
      <canvas ref={canvas} />
    </button>
  );
}
