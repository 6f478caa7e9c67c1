import { useEffect, useRef } from 'react';
import type { ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { useMeasurementsQuery } from '../app/api.ts';
import { useAppDispatch } from '../app/store.ts';
import type { InHand } from '../app/useProject.ts';
import { placeChanged } from '../app/viewSlice.ts';
import { DeltaE, deltaEOf, linearHex, requiredHex, toleranceOf } from '../ui/colour.tsx';

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
        const measured =
          sighting && measurements.find((m) => m.sightingId === sighting.id && m.colourwayId === colourwayId);
        return (
          <Cell
            key={shot.id}
            shot={shot}
            frames={media.frames}
            sighted={Boolean(sighting)}
            measured={measured}
            required={requiredHex(requirement)}
            deltaE={deltaEOf(
              measured?.frames.map((f) => f.after),
              requirement,
            )}
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
  useEffect(() => {
    const c = canvas.current!;
    Object.assign(c, { width: c.clientWidth * devicePixelRatio, height: c.clientHeight * devicePixelRatio });
    const g = c.getContext('2d')!;
    const [w, h] = [c.width, c.height];
    g.fillStyle = getComputedStyle(c).getPropertyValue('--base');
    g.fillRect(0, 0, w, h);
    const sliver = w / frames;
    const byFrame = new Map(measured?.frames.map((f) => [f.frame, f]));
    if (sighted)
      for (let f = 0; f < frames; f++) {
        const m = byFrame.get(f);
        if (m) {
          g.fillStyle = linearHex(m.after.meanLinear);
          g.fillRect(Math.floor(f * sliver), 0, Math.ceil(sliver) + 1, h);
        }
      }
    if (sighted && byFrame.size < frames) hatch(g, w, h, (x) => !byFrame.has(Math.floor(x / sliver)));
    if (sighted && required) {
      // the required colour, a line through all shots
      g.fillStyle = required;
      g.fillRect(0, Math.round(h * 0.42), w, Math.max(Math.round(h * 0.16), 3));
    }
  }, [measured, frames, sighted, required]);
  return (
    <button
      type="button"
      className="ribbon-cell"
      aria-current={current}
      style={{ flex: sighted ? `${frames} 1 0` : '0 0 92px' }}
      title={sighted ? undefined : `The piece is not isolated in ${shot.name}`}
      onClick={(e) => {
        const box = canvas.current!.getBoundingClientRect();
        const inBand = e.detail > 0 && e.clientY >= box.top;
        dispatch(
          placeChanged({
            shotId: shot.id,
            ...(inBand && {
              frame: Math.min(Math.max(Math.floor(((e.clientX - box.left) / box.width) * frames), 0), frames - 1),
            }),
          }),
        );
      }}
    >
      <header>
        <strong>{shot.name}</strong>
        {sighted ? <DeltaE value={deltaE} tolerance={tolerance} fresh={measured?.fresh ?? false} /> : null}
      </header>
      <canvas ref={canvas} />
    </button>
  );
}

/** Diagonal hatching where a frame has not been measured. */
function hatch(g: CanvasRenderingContext2D, w: number, h: number, where: (x: number) => boolean): void {
  g.strokeStyle = getComputedStyle(g.canvas).getPropertyValue('--line');
  g.lineWidth = 1;
  for (let x = -h; x < w; x += 8) {
    if (!where(Math.min(Math.max(x + h / 2, 0), w - 1))) continue;
    g.beginPath();
    g.moveTo(x, h);
    g.lineTo(x + h, 0);
    g.stroke();
  }
}
