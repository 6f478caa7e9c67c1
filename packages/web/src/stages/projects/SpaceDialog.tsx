import { Modal, Progress, Table } from 'antd';
import { useState } from 'react';
import type { ProjectSpace, Space } from '@mellow/contract';
import { problemText } from '../../data/requests.ts';
import { useSpaceQuery } from '../../data/space.ts';
import { bytesText } from '../../ui/bytesText.ts';
import { allBytes, deletedText, rulesText } from './spaceText.ts';

const STATE: Record<ProjectSpace['state'], string> = { open: '', archived: 'archived', removed: 'removed' };

const mono = () => ({ className: 'mono' });

/** What takes room on the server's disk. */
export default function SpaceDialog({ onClose }: { onClose: () => void }) {
  const { data: space, error } = useSpaceQuery();
  return (
    <Modal open title="Space on the server’s disk" width={720} footer={null} onCancel={onClose}>
      {error ? <p>{problemText(error)}</p> : null}
      {space && <SpaceTable space={space} />}
    </Modal>
  );
}

function SpaceTable({ space }: { space: Space }) {
  const { projects, unusedBytes, freeBytes, diskBytes } = space;
  const [now] = useState(Date.now);
  const bytes = (title: string, key: 'footageBytes' | 'frameBytes' | 'renderBytes', hint: string) => ({
    title: <span title={hint}>{title}</span>,
    key,
    align: 'right' as const,
    width: 126,
    onCell: mono,
    render: (project: ProjectSpace) => bytesText(project[key]),
    sorter: (a: ProjectSpace, b: ProjectSpace) => a[key] - b[key],
  });
  return (
    <>
      <div className="row">
        <Progress
          className="grow"
          percent={Math.round((100 * (diskBytes - freeBytes)) / diskBytes)}
          showInfo={false}
          aria-label="Used of the disk"
        />
        <span className="mono">
          {bytesText(freeBytes)} free of {bytesText(diskBytes)}
        </span>
      </div>
      <Table
        size="small"
        style={{ margin: '12px 0' }}
        rowKey="id"
        pagination={false}
        scroll={{ y: 340 }}
        dataSource={projects}
        columns={[
          {
            title: 'Project',
            key: 'name',
            render: (project: ProjectSpace) => (
              <>
                {project.name} <span className="quiet">{deletedText(project, space, now) ?? STATE[project.state]}</span>
              </>
            ),
          },
          bytes('Footage', 'footageBytes', 'All it has or has had: an undo may ask for it again'),
          bytes('Small pictures', 'frameBytes', 'What browsers show'),
          bytes('Renders', 'renderBytes', 'Without copies in the render folder'),
          {
            title: 'All',
            key: 'all',
            align: 'right',
            width: 90,
            onCell: mono,
            render: (project: ProjectSpace) => bytesText(allBytes(project)),
            sorter: (a: ProjectSpace, b: ProjectSpace) => allBytes(a) - allBytes(b),
          },
        ]}
      />
      <p className="quiet">
        Footage that lies in several projects counts in each. {rulesText(space).join(' ')}
        {unusedBytes > 0 && ` ${bytesText(unusedBytes)} are in no project any more, and go within days.`}
      </p>
    </>
  );
}
