// The cells of the table of shots.
import { Button, Input, Popconfirm, Progress, Select, Tooltip } from 'antd';
import { Trash2 } from 'lucide-react';
import {
  frameCount,
  framesOf,
  middleOf,
  timecodeAfter,
  type Media,
  type ProjectDocument,
  type Shot,
} from '@mellow/contract';
import { ENCODING_NAMES, ENCODINGS } from '@mellow/core';
import { removeShot, renameShot, setEncoding } from '../../commands/shots.ts';
import { useCancelJobMutation, useRetryJobMutation } from '../../data/api.ts';
import { edit } from '../../editing/editing.ts';
import { frameUrl } from '../../engine/frameUrl.ts';
import { ReadingMenu } from './ReadingMenu.tsx';

export interface ShotRow {
  shot: Shot;
  media: Media;
}

/** How many frames a shot shows, which of its footage where it is not all, and the timecode it begins at. */
export function FramesCell({ shot, media }: ShotRow) {
  const span = framesOf(shot, media);
  const begins = shot.span && media.timecode && timecodeAfter(media.timecode, media.fps, span.from);
  return (
    <span className="mono">
      {frameCount(span)}
      {shot.span && (
        <div className="quiet">
          {span.from}–{span.to}
        </div>
      )}
      {begins && <div className="quiet">{begins}</div>}
    </span>
  );
}

export function ThumbCell({ row: { shot, media }, document }: { row: ShotRow; document: ProjectDocument }) {
  const proxy = document.proxies[media.id];
  const [cancel] = useCancelJobMutation();
  const [retry] = useRetryJobMutation();
  if (proxy?.state === 'done')
    return (
      <img
        alt={`${shot.name}, middle frame`}
        width={160}
        style={{ display: 'block', borderRadius: 4 }}
        src={frameUrl(media.id, middleOf(framesOf(shot, media)), 'thumb')}
      />
    );
  if (!proxy || proxy.state === 'failed' || proxy.state === 'cancelled')
    return (
      <>
        {proxy?.message ?? 'Proxies were not made.'}{' '}
        {proxy && (
          <Button size="small" onClick={() => void retry(proxy.jobId)}>
            Start again
          </Button>
        )}
      </>
    );
  return (
    <>
      Proxies
      <Progress size="small" percent={Math.round((100 * proxy.done) / proxy.total)} />
      <Button size="small" onClick={() => void cancel(proxy.jobId)}>
        Cancel
      </Button>
    </>
  );
}

export function NameCell({ row: { shot, media } }: { row: ShotRow }) {
  return (
    <>
      <Input
        aria-label="Shot name"
        key={shot.name}
        variant="borderless"
        style={{ fontWeight: 600, padding: 0 }}
        defaultValue={shot.name}
        maxLength={120}
        onBlur={(e) => edit(shot.projectId, renameShot(shot, e.target.value))}
      />
      <div className="quiet">
        {media.name}
        {media.timecode ? ` · ${media.timecode}` : ''}
      </div>
      {media.notes.map((note) => (
        <div key={note} className="quiet">
          • {note}
        </div>
      ))}
    </>
  );
}

export const SamplesCell = ({ row: { shot, media } }: { row: ShotRow }) => (
  <ReadingMenu projectId={shot.projectId} media={media} />
);

const ENCODING_OPTIONS = ENCODING_NAMES.map((value) => ({ value, label: ENCODINGS[value].label }));
export function EncodingCell({ row: { shot, media } }: { row: ShotRow }) {
  return (
    <Tooltip title={`Proposed: ${ENCODINGS[media.proposedEncoding].label}`}>
      <Select
        aria-label={`Encoding of ${shot.name}`}
        size="small"
        style={{ width: '100%' }}
        value={shot.encoding}
        options={ENCODING_OPTIONS}
        listHeight={400}
        onChange={(encoding) => edit(shot.projectId, setEncoding(shot, encoding))}
      />
    </Tooltip>
  );
}

export function PiecesCell({ row: { shot }, document }: { row: ShotRow; document: ProjectDocument }) {
  const names = document.sightings
    .filter((s) => s.value.shotId === shot.id)
    .map((s) => document.pieces.find((p) => p.value.id === s.value.pieceId)?.value.name);
  return names.length > 0 ? names.join(', ') : <span className="quiet">none yet</span>;
}

export function RemoveCell({ row: { shot } }: { row: ShotRow }) {
  return (
    <Popconfirm
      title={`Remove ${shot.name} from the project?`}
      description="Its mattes go too. Undo brings all back."
      okText="Remove"
      onConfirm={() => edit(shot.projectId, removeShot(shot))}
    >
      <Button size="small" type="text" aria-label={`Remove ${shot.name}`}>
        <Trash2 size={15} />
      </Button>
    </Popconfirm>
  );
}
