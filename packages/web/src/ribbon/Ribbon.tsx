import { PointerActivationConstraints } from '@dnd-kit/dom';
import { DragDropProvider, PointerSensor } from '@dnd-kit/react';
import { isSortable } from '@dnd-kit/react/sortable';
import type { Shot } from '@mellow/contract';
import { moveShotTo } from '../commands/shots.ts';
import { useMeasurementsQuery } from '../data/api.ts';
import { useNotesQuery, useVerdictsQuery } from '../data/reviews.ts';
import { edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { openNotes, verdictOf } from '../inhand/reviewed.ts';
import { afterOf, deltaEOf, measuredOf, requiredHex, toleranceOf } from '../ui/colour.ts';
import { useRoving } from '../ui/useRoving.ts';
import { RibbonCell } from './RibbonCell.tsx';
import { useRibbonZoom } from './useRibbonZoom.ts';

/** Keys on a cell go to its shot; where it stands in the reel is changed from its menu. */
const SENSORS = [
  PointerSensor.configure({
    // a mouse or pen drags once it moves: a press that takes its time is a click all the same; a finger has to rest
    // first, else the reel could not be scrolled
    activationConstraints: ({ pointerType }) =>
      pointerType === 'touch'
        ? [new PointerActivationConstraints.Delay({ value: 250, tolerance: 5 })]
        : [new PointerActivationConstraints.Distance({ value: 5 })],
  }),
];

/**
 * The reel: each shot's picture, and the piece's measured colour, frame by frame through all of them, as one band
 * against the required colour. Cells are as wide as their shots are long, whatever is known of them.
 */
export function Ribbon({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId, requirement } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const { data: verdicts = [] } = useVerdictsQuery(document.project.value.id);
  const { data: notes = [] } = useNotesQuery(document.project.value.id);
  const nav = useRoving<HTMLElement>();
  const zoom = useRibbonZoom(nav);
  if (document.shots.length === 0) return null;
  const place = (shot: Shot) => {
    const sighting = document.sightings.find((s) => s.value.shotId === shot.id && s.value.pieceId === piece?.id)?.value;
    const measured = measuredOf(measurements, sighting?.id, colourwayId);
    return {
      sighting,
      measured,
      required: requiredHex(requirement, shot),
      deltaE: deltaEOf(afterOf(measured, requirement), requirement, shot),
      verdict: verdictOf(verdicts, sighting?.id, colourwayId),
      notes: openNotes(notes, shot.id, colourwayId),
    };
  };
  return (
    <nav ref={nav} className="ribbon" aria-label="Ribbon: measured colour of the piece through the shots">
      <div className="reel" style={{ width: `${100 * zoom}%` }}>
        <DragDropProvider
          sensors={SENSORS}
          onDragEnd={({ canceled, operation: { source } }) => {
            if (canceled || !isSortable(source) || source.index === source.initialIndex) return;
            const shot = document.shots[source.initialIndex]!.value;
            edit(shot.projectId, moveShotTo(document, shot, source.index));
          }}
        >
          {document.shots.map(({ value: shot }, at) => (
            <RibbonCell
              key={shot.id}
              at={at}
              shot={shot}
              inHand={inHand}
              tolerance={toleranceOf(requirement, document.project.value.tolerance)}
              {...place(shot)}
            />
          ))}
        </DragDropProvider>
      </div>
    </nav>
  );
}
