import { Button, Dropdown, Segmented } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { drift, shotColour, shotTrust } from '@mellow/core';
import type { Piece, SightingState } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { moved } from '../../view/whereSlice.ts';
import { beginsLater, send, SENDABLE, setState, type SentAt } from '../../commands/lineup.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useVerdictsQuery } from '../../data/reviews.ts';
import { verdictOf, verdictTitle } from '../../inhand/reviewed.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';
import { afterOf, deltaEOf, lchText, meanHex, requiredHex, toleranceOf } from '../../ui/colour.ts';
import { STATE_TEXT } from '../../ui/stateText.ts';
import { Crop } from './Crop.tsx';
import { DETAILS_SIZE } from './lineupLook.ts';
import type { PieceRow, Sighted } from './sightings.ts';
import { whyOff } from './why.ts';
import type { Lineup } from './useLineup.ts';

interface Props {
  row: PieceRow;
  sighted: Sighted;
  inHand: InHand;
  lineup: Lineup;
  /** Shots that are chosen in the heads of their columns. */
  chosen: readonly string[];
}

const SENT_AT: { value: SentAt; label: string }[] = [
  { value: 'first frame', label: 'place in the shot' },
  { value: 'frame numbers', label: 'frame numbers' },
];

/** The sighting in hand: as it is filmed and as it should be, why it is off, what can be done about it. */
export function CellDetails({ row, sighted, inHand, lineup, chosen }: Props) {
  const { piece, requirement } = row;
  const { shot, sighting, measured } = sighted;
  const { document, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const navigate = useNavigate();
  const go = (stage: string) => void navigate(`/projects/${projectId}/${stage}`);
  const [at, setAt] = useState<SentAt>('first frame');
  const { data: verdicts = [] } = useVerdictsQuery(projectId);
  const verdict = verdictOf(verdicts, sighting?.id, colourwayId);
  const heading = (
    <>
      <h2>
        {piece.name} <span className="quiet">in {shot.name}</span>
      </h2>
      <PartChoice inHand={inHand} piece={piece} />
    </>
  );
  if (!sighting?.layers.length)
    return (
      <aside className="cell-details" aria-label="Sighting in hand">
        {heading}
        <p className="quiet">Not isolated in this shot.</p>
        <Button size="small" onClick={() => go('isolate')}>
          Isolate here
        </Button>
      </aside>
    );
  const after = afterOf(measured, requirement) ?? [];
  const lab = shotColour(after, shot.light?.matrix);
  const isTrimmed = colourwayId !== undefined && colourwayId in sighting.trims;
  const why = whyOff({
    sighted,
    requirement,
    tolerance: toleranceOf(requirement, document.project.value.tolerance),
    recipe: document.recipes.find((r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId)?.value,
    referenceShotId: document.project.value.referenceShotId,
    isTrimmed,
  });
  const shots = document.shots.map((s) => s.value.id).filter((id) => chosen.includes(id));
  return (
    <aside className="cell-details" aria-label="Sighting in hand">
      {heading}
      <Crop piece={piece} shot={shot} inHand={inHand} shown="divided" size={DETAILS_SIZE} />
      <div className="patches" style={{ marginTop: 0 }}>
        <div
          style={{ background: meanHex(measured?.frames.map((f) => f.before) ?? []) ?? 'transparent' }}
          title="as filmed"
        />
        <div style={{ background: meanHex(after) ?? 'transparent' }} title="now" />
        <div style={{ background: requiredHex(requirement, shot) ?? 'transparent' }} title="required here" />
      </div>
      <div className="quiet">as filmed → now | required in this light</div>
      <div>
        <DeltaE
          value={deltaEOf(after, requirement, shot)}
          tolerance={toleranceOf(requirement, document.project.value.tolerance)}
          trust={measured && shotTrust(measured.frames)}
          fresh={measured?.fresh ?? false}
        />
      </div>
      {lab && (
        <div className="mono">
          {lchText(lab, 0)} <span className="quiet">drift</span> {drift(after).toFixed(2)}
          {isTrimmed ? ' · trimmed' : ''}
        </div>
      )}
      {verdict && <div>{verdictTitle(verdict)}</div>}
      {why.length > 0 && (
        <ul className="why quiet" aria-label="Why it is off">
          {why.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      )}
      <Segmented
        size="small"
        aria-label="State"
        options={(Object.keys(STATE_TEXT) as SightingState[]).map((value) => ({ value, label: STATE_TEXT[value] }))}
        value={sighting.state}
        onChange={(state) => edit(projectId, setState(sighting, state, `${piece.name} in ${shot.name}`))}
      />
      <div className="row" style={{ flexWrap: 'wrap' }}>
        <Button size="small" onClick={() => go('recolour')}>
          Open
        </Button>
        <Button size="small" disabled={!requirement} onClick={() => lineup.solve(row, [shot])}>
          Solve here
        </Button>
        <Dropdown
          trigger={['click']}
          disabled={shots.length === 0}
          menu={{
            items: SENDABLE.map((key) => ({ key, label: `Its ${key}` })),
            onClick: ({ key }) =>
              edit(projectId, send(document, key as (typeof SENDABLE)[number], sighting, shots, colourwayId ?? '', at)),
          }}
        >
          <Button size="small">Send to {shots.length} chosen</Button>
        </Dropdown>
      </div>
      {shots.some((id) => beginsLater(document, id, shot.id) !== 0) && (
        <div>
          <div className="quiet">Keyframes that are sent keep their</div>
          <Segmented
            size="small"
            aria-label="Keyframes that are sent keep their"
            options={SENT_AT}
            value={at}
            onChange={setAt}
          />
        </div>
      )}
      {shots.length === 0 && <div className="quiet">Choose shots in their heads to send this one’s work there.</div>}
    </aside>
  );
}

/** A piece and its parts, to take another of them in hand. */
function PartChoice({ inHand: { document }, piece }: { inHand: InHand; piece: Piece }) {
  const dispatch = useAppDispatch();
  const whole = piece.partOf ?? piece.id;
  const members = document.pieces.map((p) => p.value).filter((p) => p.id === whole || p.partOf === whole);
  if (members.length < 2) return null;
  return (
    <Segmented
      size="small"
      aria-label="Part"
      options={members.map(({ id, name }) => ({ value: id, label: name }))}
      value={piece.id}
      onChange={(id) => dispatch(moved({ pieceId: id, layerId: null }))}
    />
  );
}
