import { Checkbox, Modal } from 'antd';
import { useState } from 'react';
import { framesOf, type FoundCut, type Media, type ShotId } from '@mellow/contract';
import { splitAt } from '../../commands/cutting.ts';
import { useFootageCutsQuery } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import { documentOf, edit } from '../../editing/editing.ts';
import { frameUrl } from '../../engine/frameUrl.ts';
import type { InHand } from '../../inhand/inHand.ts';

interface Props {
  inHand: InHand;
  shotId: ShotId;
  onClose: () => void;
}
/** Cuts that are at least as sure as this are chosen, until the user says otherwise. */
const SURE = 0.5;

/** Cuts that were found in a shot's footage, each with its last and first picture, to be taken or left. */
export default function CutsDialog({ inHand, shotId, onClose }: Props) {
  const { document } = inHand;
  const shot = document.shots.find((s) => s.value.id === shotId)?.value;
  const media = document.media.find((m) => m.id === shot?.mediaId);
  const { data, error } = useFootageCutsQuery(media?.id ?? '', { skip: !media });
  const [said, setSaid] = useState<Record<number, boolean>>({});
  if (!shot || !media) return null;
  const { from, to } = framesOf(shot, media);
  const cuts = data?.filter(({ frame }) => frame > from && frame <= to);
  const isChosen = ({ frame, certainty }: FoundCut) => said[frame] ?? certainty >= SURE;
  const chosen = (cuts ?? []).filter(isChosen).map((c) => c.frame);
  const split = () => {
    const projectId = document.project.value.id;
    edit(
      projectId,
      splitAt(documentOf(projectId) ?? document, shot, chosen, () => crypto.randomUUID()),
    );
    onClose();
  };
  return (
    <Modal
      open
      title={`Cuts in ${shot.name}`}
      okText={chosen.length === 1 ? 'Split at 1 cut' : `Split at ${chosen.length} cuts`}
      okButtonProps={{ disabled: chosen.length === 0 }}
      onOk={split}
      onCancel={onClose}
    >
      {error ? <p role="alert">{problemText(error)}</p> : null}
      {!cuts && !error && <p className="quiet">Looking through its pictures …</p>}
      {cuts?.length === 0 && <p>No cut was found. Dissolves are not looked for; split at the frame in hand.</p>}
      <div className="found-cuts">
        {cuts?.map((cut) => (
          <Checkbox
            key={cut.frame}
            checked={isChosen(cut)}
            onChange={(e) => setSaid({ ...said, [cut.frame]: e.target.checked })}
          >
            <CutPictures media={media} frame={cut.frame} />
            <span>
              before frame {cut.frame} <span className="quiet">{Math.round(100 * cut.certainty)} % sure</span>
            </span>
          </Checkbox>
        ))}
      </div>
    </Modal>
  );
}

const CutPictures = ({ media, frame }: { media: Media; frame: number }) => (
  <span className="row">
    <img alt={`frame ${frame - 1}`} src={frameUrl(media.id, frame - 1, 'thumb')} />
    <img alt={`frame ${frame}`} src={frameUrl(media.id, frame, 'thumb')} />
  </span>
);
