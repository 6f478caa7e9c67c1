import { App, Button, Input, Modal, Popconfirm, Progress, Select, Table, Tooltip, Upload } from 'antd';
import { ArrowDown, ArrowUp, FolderOpen, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Encoding, Media, ProjectDocument, Shot } from '@mellow/contract';
import {
  api,
  problemText,
  useCancelJobMutation,
  useFolderQuery,
  useImportFromFolderMutation,
  useRetryJobMutation,
} from '../../app/api.ts';
import { edit } from '../../app/editing.ts';
import { store, useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../app/useProject.ts';
import { placeChanged } from '../../app/viewSlice.ts';
import { frameUrl } from '../../engine/frameClient.ts';
import { BalancePanel } from './BalancePanel.tsx';

const ENCODINGS: Record<Encoding, string> = { rec709: 'Rec.709 (BT.1886)', srgb: 'sRGB', linear709: 'Linear, 709' };
type Row = { shot: Shot; media: Media };

export default function ShotsStage({ inHand }: { inHand: InHand }) {
  const { document } = inHand;
  const projectId = document.project.value.id;
  const dispatch = useAppDispatch();
  const [browsing, setBrowsing] = useState(false);
  const [balancing, setBalancing] = useState(false);
  const rows: Row[] = document.shots.map(({ value: shot }) => ({
    shot,
    media: document.media.find((m) => m.id === shot.mediaId)!,
  }));
  const save = (label: string, ...shots: Shot[]) =>
    edit(
      projectId,
      label,
      shots.map((value) => ({ kind: 'shot', id: value.id, value })),
    );
  const swap = (at: number, by: number) => {
    const [a, b] = [rows[at]!.shot, rows[at + by]!.shot];
    save(`Move ${a.name} ${by < 0 ? 'up' : 'down'}`, { ...a, position: b.position }, { ...b, position: a.position });
  };
  if (balancing && inHand.shot)
    return <BalancePanel inHand={inHand} shot={inHand.shot} onClose={() => setBalancing(false)} />;
  return (
    <div className="page">
      <ImportArea projectId={projectId} onBrowse={() => setBrowsing(true)} />
      <Table<Row>
        style={{ marginTop: 16 }}
        size="small"
        pagination={false}
        rowKey={({ shot }) => shot.id}
        dataSource={rows}
        locale={{
          emptyText: 'No shots yet. Drop video files or numbered images above, or choose from the media folder.',
        }}
        onRow={({ shot }) => ({
          onClick: () => dispatch(placeChanged({ shotId: shot.id })),
          'aria-selected': shot.id === inHand.shot?.id,
        })}
        columns={[
          { title: 'Picture', width: 180, render: (_, r) => <Thumb row={r} document={document} /> },
          {
            title: 'Shot',
            render: (_, { shot, media }) => (
              <>
                <Input
                  aria-label="Shot name"
                  key={shot.name}
                  variant="borderless"
                  style={{ fontWeight: 600, padding: 0 }}
                  defaultValue={shot.name}
                  maxLength={120}
                  onBlur={(e) => {
                    const name = e.target.value.trim();
                    if (name && name !== shot.name) save(`Rename ${shot.name}`, { ...shot, name });
                  }}
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
            ),
          },
          { title: 'Frames', align: 'right', render: (_, { media }) => <span className="mono">{media.frames}</span> },
          {
            title: 'Rate',
            align: 'right',
            render: (_, { media: { fps } }) => <span className="mono">{+(fps.num / fps.den).toFixed(3)}</span>,
          },
          {
            title: 'Size',
            render: (_, { media }) => (
              <span className="mono">
                {media.width} × {media.height}
              </span>
            ),
          },
          {
            title: 'Samples',
            render: (_, { media }) => (
              <span>
                {media.codec} {media.bitDepth} bit
                <br />
                <span className="quiet">
                  {media.matrix === 'gbr' ? 'RGB' : media.matrix}, {media.range}
                </span>
              </span>
            ),
          },
          {
            title: 'Encoding',
            width: 170,
            render: (_, { shot, media }) => (
              <Tooltip title={`Proposed: ${ENCODINGS[media.proposedEncoding]}`}>
                <Select
                  aria-label={`Encoding of ${shot.name}`}
                  size="small"
                  style={{ width: '100%' }}
                  value={shot.encoding}
                  options={Object.entries(ENCODINGS).map(([value, label]) => ({ value, label }))}
                  onChange={(encoding) => save(`Encoding of ${shot.name}`, { ...shot, encoding })}
                />
              </Tooltip>
            ),
          },
          {
            title: 'Balance',
            render: (_, { shot }) => (
              <Button
                size="small"
                aria-label={`Balance ${shot.name}`}
                onClick={(e) => {
                  e.stopPropagation();
                  dispatch(placeChanged({ shotId: shot.id }));
                  setBalancing(true);
                }}
              >
                {shot.balance ? 'Set' : 'None'}
              </Button>
            ),
          },
          {
            title: 'Pieces seen',
            render: (_, { shot }) =>
              document.sightings
                .filter((s) => s.value.shotId === shot.id)
                .map((s) => document.pieces.find((p) => p.value.id === s.value.pieceId)?.value.name)
                .join(', ') || <span className="quiet">none yet</span>,
          },
          {
            title: '',
            width: 104,
            render: (_, { shot }, at) => (
              <span className="row">
                <Button
                  size="small"
                  type="text"
                  aria-label={`Move ${shot.name} up`}
                  disabled={at === 0}
                  onClick={() => swap(at, -1)}
                >
                  <ArrowUp size={15} />
                </Button>
                <Button
                  size="small"
                  type="text"
                  aria-label={`Move ${shot.name} down`}
                  disabled={at === rows.length - 1}
                  onClick={() => swap(at, 1)}
                >
                  <ArrowDown size={15} />
                </Button>
                <Popconfirm
                  title={`Take ${shot.name} out of the project?`}
                  description="Its mattes go too. Undo brings all back."
                  okText="Take out"
                  onConfirm={() =>
                    edit(projectId, `Take out ${shot.name}`, [{ kind: 'shot', id: shot.id, value: null }])
                  }
                >
                  <Button size="small" type="text" aria-label={`Take out ${shot.name}`}>
                    <Trash2 size={15} />
                  </Button>
                </Popconfirm>
              </span>
            ),
          },
        ]}
      />
      {browsing && <FolderDialog projectId={projectId} onClose={() => setBrowsing(false)} />}
    </div>
  );
}

function Thumb({ row: { shot, media }, document }: { row: Row; document: ProjectDocument }) {
  const proxy = document.proxies[media.id];
  const [cancel] = useCancelJobMutation();
  const [retry] = useRetryJobMutation();
  if (proxy?.state === 'done')
    return (
      <img
        alt={`${shot.name}, middle frame`}
        width={160}
        style={{ display: 'block', borderRadius: 4 }}
        src={frameUrl(media.id, Math.floor(media.frames / 2), 'thumb')}
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

function ImportArea({ projectId, onBrowse }: { projectId: string; onBrowse: () => void }) {
  const { notification } = App.useApp();
  const [upload, setUpload] = useState<{ name: string; share: number; abort: () => void }>();
  const send = (files: File[]) => {
    const request = new XMLHttpRequest();
    const form = new FormData();
    files.forEach((f) => form.append('files', f));
    const name = files.length === 1 ? files[0]!.name : `${files.length} files`;
    request.upload.onprogress = (e) => setUpload({ name, share: e.loaded / e.total, abort: () => request.abort() });
    request.onloadend = () => {
      setUpload(undefined);
      if (request.status >= 400 || request.status === 0) {
        const detail =
          request.status === 0
            ? 'The upload was stopped; nothing was imported.'
            : (JSON.parse(request.responseText) as { detail: string }).detail;
        notification.warning({ title: 'Not imported', description: detail, duration: 0 });
      }
      store.dispatch(api.util.invalidateTags(['Project', 'Jobs']));
    };
    request.open('POST', `/api/projects/${projectId}/media`);
    request.send(form);
    setUpload({ name, share: 0, abort: () => request.abort() });
  };
  if (upload)
    return (
      <div className="card">
        {upload.share < 1 ? `Sending ${upload.name}` : `Checking ${upload.name}: every frame is decoded once`}
        <span className="row">
          <Progress
            className="grow"
            percent={Math.round(upload.share * 100)}
            status={upload.share < 1 ? 'normal' : 'active'}
          />
          <Button size="small" onClick={upload.abort}>
            Cancel
          </Button>
        </span>
      </div>
    );
  return (
    <div className="row">
      <div className="grow">
        <Upload.Dragger
          multiple
          showUploadList={false}
          style={{ background: 'transparent' }}
          beforeUpload={(file, all) => {
            if (file === all.at(-1)) send(all as File[]);
            return false;
          }}
        >
          Drop video files or numbered images (PNG, TIFF, JPEG, EXR, DPX) here, or click to choose
        </Upload.Dragger>
      </div>
      <Button icon={<FolderOpen size={15} />} onClick={onBrowse}>
        Media folder
      </Button>
    </div>
  );
}

function FolderDialog({ projectId, onClose }: { projectId: string; onClose: () => void }) {
  const [path, setPath] = useState('');
  const [chosen, setChosen] = useState<string[]>([]);
  const { data: entries = [], error } = useFolderQuery(path, { refetchOnMountOrArgChange: true });
  const [bringIn, { isLoading }] = useImportFromFolderMutation();
  const { notification } = App.useApp();
  const go = async () => {
    const answer = await bringIn({ projectId, paths: chosen });
    if (answer.error)
      notification.warning({ title: 'Not imported', description: problemText(answer.error), duration: 0 });
    else onClose();
  };
  return (
    <Modal
      open
      title={`Media folder${path ? ` / ${path}` : ''}`}
      okText="Import"
      okButtonProps={{ disabled: chosen.length === 0, loading: isLoading }}
      onOk={() => void go()}
      onCancel={onClose}
    >
      {error ? problemText(error) : null}
      {path && (
        <Button size="small" onClick={() => setPath(path.split('/').slice(0, -1).join('/'))}>
          Up
        </Button>
      )}
      <Table
        size="small"
        pagination={false}
        rowKey="path"
        dataSource={entries}
        locale={{ emptyText: 'Nothing here. Put footage into the inbox of the media folder.' }}
        rowSelection={{
          selectedRowKeys: chosen,
          onChange: (keys) => setChosen(keys as string[]),
          getCheckboxProps: (e) => ({ disabled: e.kind === 'folder' }),
        }}
        columns={[
          {
            title: 'Name',
            render: (_, e) =>
              e.kind === 'folder' ? (
                <Button type="link" size="small" onClick={() => setPath(e.path)}>
                  {e.name}/
                </Button>
              ) : (
                e.name
              ),
          },
          { title: 'Kind', dataIndex: 'kind' },
          { title: 'Frames', render: (_, e) => e.frames ?? '' },
        ]}
      />
    </Modal>
  );
}
