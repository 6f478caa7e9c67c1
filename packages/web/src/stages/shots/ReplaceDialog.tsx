import { Modal, Radio } from 'antd';
import { useState } from 'react';
import type { MediaId, ShotId } from '@mellow/contract';
import { placeIn, replaceFootage } from '../../commands/replaceFootage.ts';
import { documentOf, edit, shotNow } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';

interface Props {
  inHand: InHand;
  shotId: ShotId;
  onClose: () => void;
}
/** Other footage of the project to put under a shot, whose work stays; what does not fit says why. */
export default function ReplaceDialog({ inHand: { document }, shotId, onClose }: Props) {
  const [chosen, setChosen] = useState<MediaId>();
  const shot = document.shots.find((s) => s.value.id === shotId)?.value;
  if (!shot) return null;
  const { sha256 } = document.media.find((m) => m.id === shot.mediaId)!;
  // the same files, read in another way, are not other footage
  const shown = new Set<string>(document.shots.map((s) => s.value.mediaId));
  const others = document.media.filter((m) => m.sha256 !== sha256 && shown.has(m.id));
  const replace = () => {
    const media = others.find((m) => m.id === chosen);
    const { projectId } = shot;
    if (media) edit(projectId, replaceFootage(documentOf(projectId) ?? document, shotNow(shot), media));
    onClose();
  };
  return (
    <Modal
      open
      title={`Other footage under ${shot.name}`}
      okText="Replace"
      okButtonProps={{ disabled: chosen === undefined }}
      onOk={replace}
      onCancel={onClose}
    >
      <p>Mattes, tracks, keyframes and trims stay on the frames they are on. Bring the new footage in first.</p>
      {others.length === 0 && <p className="quiet">There is no other footage in this project.</p>}
      <Radio.Group className="stack" value={chosen} onChange={(e) => setChosen(e.target.value as MediaId)}>
        {others.map((media) => {
          const { span, whyNot } = placeIn(document, shot, media);
          return (
            <Radio key={media.id} value={media.id} disabled={whyNot !== undefined}>
              {media.name}{' '}
              <span className="quiet">{whyNot ?? `frames ${span.from} to ${span.to} of ${media.frames}`}</span>
            </Radio>
          );
        })}
      </Radio.Group>
    </Modal>
  );
}
