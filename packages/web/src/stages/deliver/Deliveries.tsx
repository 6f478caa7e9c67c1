import { Button, Progress, Table } from 'antd';
import { Download } from 'lucide-react';
import { PRESETS, type Delivery } from '@mellow/contract';
import { useCancelJobMutation, useRetryJobMutation } from '../../data/api.ts';
import { addressOf } from '../../data/requests.ts';

const STATE: Record<Delivery['job']['state'], string> = {
  queued: 'waiting',
  running: 'rendering',
  done: '✓ done',
  failed: '✕ failed',
  cancelled: 'cancelled',
};
const remaining = ({ job }: Delivery): string => {
  if (!job.startedAt || job.done < 2) return '';
  const perFrame = (Date.now() - Date.parse(job.startedAt)) / job.done;
  return `${Math.max(Math.ceil((perFrame * (job.total - job.done)) / 1000), 0)} s left`;
};

const isUnderWay = ({ job }: Delivery): boolean => job.state === 'queued' || job.state === 'running';

/** What has been rendered, is being rendered or could not be. */
export function Deliveries({ deliveries }: { deliveries: Delivery[] }) {
  return (
    <Table<Delivery>
      size="small"
      pagination={false}
      rowKey="id"
      dataSource={deliveries}
      locale={{ emptyText: 'Nothing rendered yet.' }}
      columns={[
        { title: 'Shot', dataIndex: 'shotName' },
        { title: 'Colourway', dataIndex: 'colourwayName' },
        { title: 'As', render: (_, d) => PRESETS[d.preset].label },
        { title: 'State', width: 260, render: (_, d) => <State delivery={d} /> },
        { title: 'Size', align: 'right', render: (_, d) => (d.bytes ? `${(d.bytes / 1e6).toFixed(1)} MB` : '') },
        { title: '', render: (_, d) => <Action delivery={d} /> },
      ]}
    />
  );
}

function State({ delivery }: { delivery: Delivery }) {
  const { state, done, total, message } = delivery.job;
  if (state !== 'running')
    return (
      <>
        {STATE[state]}
        {message ? `: ${message}` : ''}
      </>
    );
  return (
    <>
      <Progress percent={Math.round((100 * done) / total)} size="small" />
      <span className="quiet mono">
        {done} / {total} {remaining(delivery)}
      </span>
    </>
  );
}

function Action({ delivery }: { delivery: Delivery }) {
  const [cancel] = useCancelJobMutation();
  const [retry] = useRetryJobMutation();
  const { id, fileName, job } = delivery;
  if (job.state === 'done')
    return (
      <Button
        size="small"
        icon={<Download size={14} />}
        href={addressOf('download', { deliveryId: id })}
        aria-label={`Download ${fileName}`}
      >
        {fileName}
      </Button>
    );
  return (
    <Button size="small" onClick={() => void (isUnderWay(delivery) ? cancel(job.id) : retry(job.id))}>
      {isUnderWay(delivery) ? 'Cancel' : 'Start again'}
    </Button>
  );
}
