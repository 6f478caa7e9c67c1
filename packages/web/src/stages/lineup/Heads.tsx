import { Button, Checkbox, Dropdown, Popconfirm } from 'antd';
import { EllipsisVertical } from 'lucide-react';
import { hexFromLab, lightInWords } from '@mellow/core';
import type { Shot } from '@mellow/contract';
import { setReferenceShot } from '../../commands/match.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { requiredLab } from '../../ui/colour.ts';
import { lightText } from '../../ui/lightText.ts';
import type { PieceRow } from './sightings.ts';
import type { Lineup } from './useLineup.ts';

interface ShotHeadProps {
  shot: Shot;
  inHand: InHand;
  lineup: Lineup;
  isChosen: boolean;
  onChoose: (isChosen: boolean) => void;
  /** There is room for little: what can be done is under the other button. */
  isShort: boolean;
}
/** A shot: its light against the reference shot's, and whether work is sent to it. */
export function ShotHead({ shot, inHand: { document }, lineup, isChosen, onChoose, isShort }: ShotHeadProps) {
  const projectId = document.project.value.id;
  const isReference = lineup.reference?.id === shot.id;
  const items = [
    { key: 'reference', label: 'Make it the reference shot', disabled: isReference },
    { key: 'no light', label: 'No light of its own', disabled: !shot.light },
  ];
  const act = (key: string) =>
    key === 'reference' ? edit(projectId, setReferenceShot(document, shot)) : lineup.dropLight(shot);
  const light = isReference ? 'reference shot' : lightText(shot.light ? lightInWords(shot.light.matrix) : undefined);
  const menu = { items, onClick: ({ key }: { key: string }) => act(key) };
  const choose = (
    <Checkbox checked={isChosen} aria-label={`Choose ${shot.name}`} onChange={(e) => onChoose(e.target.checked)} />
  );
  if (isShort)
    return (
      <Dropdown trigger={['contextMenu']} menu={menu}>
        <div title={`${shot.name}: ${light}`}>
          {choose}
          <div className="shorten">{shot.name}</div>
        </div>
      </Dropdown>
    );
  return (
    <Dropdown trigger={['contextMenu']} menu={menu}>
      <div>
        <div className="row">
          {choose}
          <span className="grow shorten">{shot.name}</span>
          <Dropdown trigger={['click']} menu={menu}>
            <Button size="small" type="text" aria-label={`More of ${shot.name}`}>
              <EllipsisVertical size={14} />
            </Button>
          </Dropdown>
        </div>
        <div className="quiet shorten" title={light}>
          {light}
        </div>
      </div>
    </Dropdown>
  );
}

interface PieceHeadProps {
  row: PieceRow;
  lineup: Lineup;
  /** There is room for its name only: what can be done is in a menu. */
  isShort: boolean;
}
/** The piece and what can be done to all its sightings at once. */
export function PieceHead({ row, lineup, isShort }: PieceHeadProps) {
  const { piece, requirement, spread } = row;
  const between = spread === undefined ? ' ' : `between shots ΔE ${spread.toFixed(2)}`;
  return (
    <>
      <div className="row">
        {requirement && <i className="dot" style={{ background: hexFromLab(requiredLab(requirement)) }} />}
        <strong className="shorten grow">{piece.name}</strong>
        {isShort && <PieceMenu row={row} lineup={lineup} />}
      </div>
      {!isShort && <div className="quiet shorten">{requirement?.name ?? 'no requirement'}</div>}
      <div className="mono quiet shorten" title="Largest ΔE00 between two sightings">
        {between}
      </div>
      {!isShort && <PieceActions row={row} lineup={lineup} />}
    </>
  );
}
const isSolved = ({ sightings }: PieceRow, lineup: Lineup) =>
  sightings.some((s) => s.sighting && lineup.solved.has(s.sighting.id));
const isInReference = ({ sightings }: PieceRow, lineup: Lineup) =>
  sightings.some((s) => s.shot.id === lineup.reference?.id && (s.sighting?.layers.length ?? 0) > 0);

function PieceMenu({ row, lineup }: { row: PieceRow; lineup: Lineup }) {
  const acts: Record<string, () => void> = {
    solve: () => lineup.solve(row),
    apply: () => lineup.apply(row),
    leave: lineup.drop,
    lights: () => lineup.takeLights(row),
    clear: () => lineup.clearTrims(row),
  };
  const items = [
    ...(isSolved(row, lineup)
      ? [
          { key: 'apply', label: 'Apply trims' },
          { key: 'leave', label: 'Leave it' },
        ]
      : [{ key: 'solve', label: 'Solve trims', disabled: !row.requirement }]),
    { key: 'lights', label: 'Take lights: it is of the same lot in all shots', disabled: !isInReference(row, lineup) },
    { key: 'clear', label: 'No trims' },
  ];
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => acts[key]!() }}>
      <Button size="small" type="text" aria-label={`More of ${row.piece.name}`}>
        <EllipsisVertical size={14} />
      </Button>
    </Dropdown>
  );
}

function PieceActions({ row, lineup }: { row: PieceRow; lineup: Lineup }) {
  const { piece, requirement } = row;
  return (
    <div className="row" style={{ flexWrap: 'wrap' }}>
      {isSolved(row, lineup) ? (
        <>
          <Button size="small" type="primary" onClick={() => lineup.apply(row)}>
            Apply trims
          </Button>
          <Button size="small" onClick={lineup.drop}>
            Leave it
          </Button>
        </>
      ) : (
        <Button
          size="small"
          disabled={!requirement}
          loading={lineup.busy === `solve ${piece.id}` || lineup.busy === 'solve all'}
          onClick={() => lineup.solve(row)}
        >
          Solve trims
        </Button>
      )}
      <Popconfirm
        title={`Is the ${piece.name} of the same lot in all shots?`}
        description="Its old colour tells the shots’ lights only if it is the same thing everywhere."
        okText="It is"
        cancelText="It is not"
        onConfirm={() => lineup.takeLights(row)}
      >
        <Button size="small" disabled={!isInReference(row, lineup)} loading={lineup.busy === `lights ${piece.id}`}>
          Take lights
        </Button>
      </Popconfirm>
      <Button size="small" type="text" onClick={() => lineup.clearTrims(row)}>
        No trims
      </Button>
    </div>
  );
}
