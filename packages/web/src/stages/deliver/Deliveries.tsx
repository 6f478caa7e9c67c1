import { Button, Popconfirm, Progress } from 'antd';
import { Download, Trash2 } from 'lucide-react';
import { frameCount, framesOf, PRESETS, stillFrames, type Delivery } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useCancelJobMutation, useRetryJobMutation } from '../../data/api.ts';
import { addressOf, problemText } from '../../data/requests.ts';
import { useDeleteDeliveryMutation } from '../../data/space.ts';
import { frameUrl } from '../../engine/frameUrl.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { BeforeAfter } from '../../ui/BeforeAfter.tsx';
import { bytesText } from '../../ui/bytesText.ts';
import { secondsLeft } from '../../ui/secondsLeft.ts';

const STATE: Record<Delivery['job']['state'], string> = {
  queued: 'waiting',
  running: 'rendering',
  done: '✓ done',
  failed: '✕ failed',
  cancelled: 'cancelled',
};
const isUnderWay = ({ job }: Delivery): boolean => job.state === 'queued' || job.state === 'running';

interface Props {
  deliveries: Delivery[];
  document: InHand['document'];
}
/** What has been rendered, is being rendered or could not be, the newest first: each with its pictures. */
export function Deliveries({ deliveries, document }: Props) {
  if (deliveries.length === 0)
    return (
      <div className="empty">
        Nothing is rendered yet. Choose shots and a format, read the checks, and render: files appear here with their
        pictures.
      </div>
    );
  return (
    <div className="deliveries">
      {deliveries.map((delivery) => (
        <section key={delivery.id} aria-label={`${delivery.shotName}, ${delivery.colourwayName}`}>
          <div className="row">
            <strong>{delivery.shotName}</strong>
            <span className="quiet grow">
              {delivery.colourwayName} · {PRESETS[delivery.preset].label}
              {delivery.bytes ? ` · ${bytesText(delivery.bytes)}` : ''}
              {delivery.readBack && <ReadBackText {...delivery.readBack} />}
              {delivery.placed && <span title="In the server’s render folder">{` · in ${delivery.placed}`}</span>}
            </span>
            <State delivery={delivery} />
            <Action delivery={delivery} />
            {!isUnderWay(delivery) && <Delete delivery={delivery} />}
          </div>
          {delivery.job.state === 'done' && <Strip delivery={delivery} document={document} />}
        </section>
      ))}
    </div>
  );
}

/** What reading the file back has found. */
const ReadBackText = ({ frames, isExact, sha256 }: NonNullable<Delivery['readBack']>) => (
  <span title={sha256 ? `SHA-256 ${sha256}` : undefined}>
    {` · read back: ${frames} frames${isExact ? ', bit for bit' : ''}`}
  </span>
);

/** Pictures of the rendered file along the shot; the pointer over one wipes back to the source. */
function Strip({ delivery, document }: { delivery: Delivery; document: Props['document'] }) {
  const { id, shotId, shotName, job } = delivery;
  const shot = document.shots.find((s) => s.value.id === shotId)?.value;
  const media = document.media.find((m) => m.id === shot?.mediaId);
  const span = shot && media && framesOf(shot, media);
  // a shot that was removed or cut since has a file, but no source to wipe to
  if (!span || frameCount(span) !== job.total) return null;
  return (
    <div className="strip">
      {stillFrames(frameCount(span)).map((off, n) => {
        const frame = span.from + off;
        return (
          <BeforeAfter
            key={frame}
            after={addressOf('deliveryStill', { deliveryId: id, still: `${n}.png` })}
            before={frameUrl(media.id, frame)}
            aspect={media.width / media.height}
            label={`${shotName} as rendered, frame ${frame}`}
          />
        );
      })}
    </div>
  );
}

function State({ delivery: { job } }: { delivery: Delivery }) {
  const { state, done, total, message } = job;
  if (state !== 'running')
    return (
      <span>
        {STATE[state]}
        {message ? `: ${message}` : ''}
      </span>
    );
  const left = secondsLeft(job, Date.now());
  return (
    <>
      <Progress percent={Math.round((100 * done) / total)} size="small" style={{ width: 180 }} />
      <span className="quiet mono">
        {done} / {total} {left === undefined ? '' : `${left} s left`}
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
        title={fileName}
      >
        Download
      </Button>
    );
  return (
    <Button size="small" onClick={() => void (isUnderWay(delivery) ? cancel(job.id) : retry(job.id))}>
      {isUnderWay(delivery) ? 'Cancel' : 'Start again'}
    </Button>
  );
}

function Delete({ delivery: { id, fileName, placed } }: { delivery: Delivery }) {
  const { message } = useNotices();
  const [remove, { isLoading }] = useDeleteDeliveryMutation();
  const doIt = async () => {
    const { error } = await remove(id);
    if (error) void message.error(problemText(error));
  };
  return (
    <Popconfirm
      title={`Delete ${fileName}?`}
      description={placed ? 'Its copy in the render folder stays.' : 'It can be rendered again.'}
      okText="Delete"
      okButtonProps={{ danger: true }}
      onConfirm={() => void doIt()}
    >
      <Button size="small" type="text" loading={isLoading} aria-label={`Delete ${fileName}`}>
        <Trash2 size={14} />
      </Button>
    </Popconfirm>
  );
}
