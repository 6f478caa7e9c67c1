import { Button, Progress, Segmented, Select, Upload } from 'antd';
import { useState } from 'react';
import { hasAlpha, type PlateLayer } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { api } from '../../data/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import type { Stack } from './useStack.ts';

/** A matte made elsewhere: which file, which channel, from which frame on. */
export function PlateEditor({
  layer,
  stack,
  inHand: { document },
}: {
  layer: PlateLayer;
  stack: Stack;
  inHand: InHand;
}) {
  const { notification } = useNotices();
  const dispatch = useAppDispatch();
  const projectId = document.project.value.id;
  const [sending, setSending] = useState(false);
  const footage = document.media.find((m) => m.id === layer.mediaId);
  const proxy = footage && document.proxies[footage.id];
  const save = (label: string, change: Partial<PlateLayer>) =>
    stack.changeLayer(layer.id, `${layer.name}: ${label}`, change);
  const send = async (files: File[]) => {
    setSending(true);
    const { uploadFiles } = await import('../../data/upload.ts');
    const { mediaIds, refused, said } = await uploadFiles('plates', projectId, files, {}, () => undefined).done;
    setSending(false);
    const reasons = refused.map((r) => `${r.name}: ${r.reason}`);
    if (reasons.length > 0 || said)
      notification.warning({ title: 'Not imported', description: reasons.join(' ') || said, duration: 0 });
    const [mediaId] = mediaIds;
    if (!mediaId) return;
    await dispatch(api.endpoints.getProject.initiate(projectId, { forceRefetch: true, subscribe: false }));
    save('choose its file', { mediaId });
  };
  const plates = document.media.filter((m) => document.plates.includes(m.id) || m.id === layer.mediaId);
  return (
    <section aria-label="Plate matte">
      <h2 style={{ marginBottom: 8 }}>Plate matte</h2>
      <div className="numbers">
        <span className="quiet">File</span>
        <span className="row">
          <Select
            className="grow"
            size="small"
            aria-label="File of the plate matte"
            placeholder="choose or bring in"
            value={layer.mediaId}
            options={plates.map((m) => ({ value: m.id, label: `${m.name} (${m.frames} frames)` }))}
            onChange={(id) => save('choose its file', { mediaId: id })}
          />
          <Upload
            multiple
            showUploadList={false}
            beforeUpload={(file, all) => {
              if (file === all.at(-1)) void send(all);
              return false;
            }}
          >
            <Button size="small" loading={sending}>
              Bring in
            </Button>
          </Upload>
        </span>
        {proxy && proxy.state !== 'done' && (
          <>
            <span className="quiet">Proxies</span>
            <Progress size="small" percent={Math.round((100 * proxy.done) / proxy.total)} />
          </>
        )}
        <span className="quiet">Channel</span>
        <Segmented
          size="small"
          aria-label="Channel of the plate matte"
          options={['luma', 'alpha'] as PlateLayer['channel'][]}
          value={layer.channel}
          disabled={!footage || !hasAlpha(footage.pixelFormat)}
          onChange={(channel) => save(`channel ${channel}`, { channel })}
        />
        <NumberField
          label="Offset"
          name="Offset of the plate matte"
          value={layer.offsetFrames}
          unit="frames"
          min={-100_000}
          max={100_000}
          step={1}
          digits={0}
          neutral={0}
          onDrag={(v) => stack.dragLayer({ ...layer, offsetFrames: Math.round(v) })}
          onCommit={(v) => save('offset', { offsetFrames: Math.round(v) })}
        />
      </div>
      <p className="quiet">
        Frame {stack.frame} of the shot takes frame {stack.frame + layer.offsetFrames} of the file
        {footage && (stack.frame + layer.offsetFrames < 0 || stack.frame + layer.offsetFrames >= footage.frames)
          ? ', which it does not have: nothing is selected here'
          : ''}
        .
      </p>
    </section>
  );
}
