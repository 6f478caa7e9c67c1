import { DragDropProvider } from '@dnd-kit/react';
import { isSortable } from '@dnd-kit/react/sortable';
import { Button, Table, type TableColumnsType } from 'antd';
import { useState, type ComponentProps } from 'react';
import { useAppDispatch } from '../../app/store.ts';
import { moveShotTo } from '../../commands/shots.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { moved } from '../../view/whereSlice.ts';
import { Places, RowGrip, SortedRow } from './SortedRow.tsx';
import { BalancePanel } from './BalancePanel.tsx';
import { FolderDialog } from './FolderDialog.tsx';
import { ImportArea } from './ImportArea.tsx';
import {
  EncodingCell,
  FramesCell,
  NameCell,
  PiecesCell,
  RemoveCell,
  SamplesCell,
  ThumbCell,
  type ShotRow,
} from './ShotCells.tsx';

/** Brings footage in: the shots in the order of the reel, how each is read, and its balance. */
export default function ShotsStage({ inHand }: { inHand: InHand }) {
  const { document, shot: shotInHand } = inHand;
  const projectId = document.project.value.id;
  const dispatch = useAppDispatch();
  const [isBrowsing, setBrowsing] = useState(false);
  const [isBalancing, setBalancing] = useState(false);
  if (isBalancing && shotInHand)
    return <BalancePanel inHand={inHand} shot={shotInHand} onClose={() => setBalancing(false)} />;
  const rows = document.shots.flatMap(({ value: shot }): ShotRow[] => {
    const media = document.media.find((m) => m.id === shot.mediaId);
    return media ? [{ shot, media }] : [];
  });
  const balance = (e: React.MouseEvent, shotId: string) => {
    e.stopPropagation();
    dispatch(moved({ shotId }));
    setBalancing(true);
  };
  const columns: TableColumnsType<ShotRow> = [
    { title: '', width: 34, render: (_, { shot }) => <RowGrip name={shot.name} /> },
    { title: 'Picture', width: 180, render: (_, row) => <ThumbCell row={row} document={document} /> },
    { title: 'Shot', render: (_, row) => <NameCell row={row} /> },
    { title: 'Frames', align: 'right', render: (_, { shot, media }) => <FramesCell shot={shot} media={media} /> },
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
    { title: 'Samples', render: (_, row) => <SamplesCell row={row} /> },
    { title: 'Encoding', width: 170, render: (_, row) => <EncodingCell row={row} /> },
    {
      title: 'Balance',
      render: (_, { shot }) => (
        <Button size="small" aria-label={`Balance ${shot.name}`} onClick={(e) => balance(e, shot.id)}>
          {shot.balance ? 'Set' : 'None'}
        </Button>
      ),
    },
    { title: 'Pieces seen', render: (_, row) => <PiecesCell row={row} document={document} /> },
    { title: '', width: 44, render: (_, row) => <RemoveCell row={row} /> },
  ];
  const places = new Map<string, number>(rows.map(({ shot }, at) => [shot.id, at]));
  const dropped: ComponentProps<typeof DragDropProvider>['onDragEnd'] = ({ canceled, operation: { source } }) => {
    if (canceled || !isSortable(source) || source.index === source.initialIndex) return;
    edit(projectId, moveShotTo(document, rows[source.initialIndex]!.shot, source.index));
  };
  return (
    <div className="page">
      <ImportArea document={document} onBrowse={() => setBrowsing(true)} />
      <DragDropProvider onDragEnd={dropped}>
        <Places value={places}>
          <Table<ShotRow>
            components={{ body: { row: SortedRow } }}
            style={{ marginTop: 16 }}
            size="small"
            pagination={false}
            rowKey={({ shot }) => shot.id}
            dataSource={rows}
            locale={{
              emptyText: 'No shots yet. Drop video files or numbered images above, or choose from the media folder.',
            }}
            onRow={({ shot }) => ({
              onClick: () => dispatch(moved({ shotId: shot.id })),
              'aria-selected': shot.id === shotInHand?.id,
            })}
            columns={columns}
          />
        </Places>
      </DragDropProvider>
      {isBrowsing && <FolderDialog projectId={projectId} onClose={() => setBrowsing(false)} />}
    </div>
  );
}
