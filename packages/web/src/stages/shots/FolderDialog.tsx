import { Button, Modal, Table } from 'antd';
import { useState } from 'react';
import type { FolderEntry, ImportOptions, RefusedFile } from '@mellow/contract';
import { useFolderQuery, useImportFromFolderMutation } from '../../data/api.ts';
import { problemText, type Failure } from '../../data/requests.ts';
import type { TimingOffer } from '../../ui/importing.ts';
import { RefusedFiles } from '../../ui/RefusedFiles.tsx';

/** Footage chosen from the media folder of the server. */
export function FolderDialog({ projectId, onClose }: { projectId: string; onClose: () => void }) {
  const [path, setPath] = useState('');
  const [chosen, setChosen] = useState<string[]>([]);
  const [refused, setRefused] = useState<RefusedFile[]>([]);
  const [said, setSaid] = useState<string>();
  const { data: entries = [], error } = useFolderQuery(path, { refetchOnMountOrArgChange: true });
  const [bringIn, { isLoading }] = useImportFromFolderMutation();
  const go = async (paths: string[], options: ImportOptions = {}) => {
    const { data, error: failure } = await bringIn({ projectId, paths, ...options });
    const problem = (failure as Failure | undefined)?.problem;
    const left = data?.refused ?? problem?.refused ?? [];
    setRefused(left);
    setSaid(failure && problemText(failure));
    if (!failure && left.length === 0) onClose();
  };
  const goFrameByFrame = ({ fps, names }: TimingOffer) => {
    const paths = entries.filter((e) => names.includes(e.name)).map((e) => e.path);
    void go(paths.length > 0 ? paths : chosen, { fps, timing: 'frame by frame' });
  };
  return (
    <Modal
      open
      title={`Media folder${path ? ` / ${path}` : ''}`}
      okText="Import"
      okButtonProps={{ disabled: chosen.length === 0, loading: isLoading }}
      onOk={() => void go(chosen)}
      onCancel={onClose}
    >
      {error ? problemText(error) : null}
      {path && (
        <Button size="small" onClick={() => setPath(path.split('/').slice(0, -1).join('/'))}>
          Up
        </Button>
      )}
      <Table<FolderEntry>
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
          { title: 'Name', render: (_, e) => <EntryName entry={e} onOpen={setPath} /> },
          { title: 'Kind', dataIndex: 'kind' },
          { title: 'Frames', render: (_, e) => e.frames ?? '' },
        ]}
      />
      <RefusedFiles
        refused={refused}
        said={said}
        onFrameByFrame={goFrameByFrame}
        onClose={() => {
          setRefused([]);
          setSaid(undefined);
        }}
      />
    </Modal>
  );
}

function EntryName({ entry, onOpen }: { entry: FolderEntry; onOpen: (path: string) => void }) {
  if (entry.kind !== 'folder') return entry.name;
  return (
    <Button type="link" size="small" onClick={() => onOpen(entry.path)}>
      {entry.name}/
    </Button>
  );
}
