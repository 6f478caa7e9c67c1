import { Alert, Button } from 'antd';
import type { RefusedFile } from '@mellow/contract';
import { rateText, reasonText, timingOffers, type TimingOffer } from './importing.ts';

interface Props {
  refused: readonly RefusedFile[];
  /** Why nothing at all came in, where it is not for the files' sake. */
  said: string | undefined;
  onFrameByFrame: (offer: TimingOffer) => void;
  onClose: () => void;
}

/** The files that did not come in, each with its reason, and the way in that is offered to some of them. */
export function RefusedFiles({ refused, said, onFrameByFrame, onClose }: Props) {
  if (refused.length === 0 && !said) return null;
  const count = refused.length === 1 ? '1 file' : `${refused.length} files`;
  return (
    <Alert
      type="warning"
      style={{ marginTop: 12 }}
      closable={{ onClose }}
      title={refused.length > 0 ? `Not imported: ${count}` : 'Not imported'}
      description={
        <>
          {refused.length > 0 ? (
            <ul style={{ margin: 0, paddingLeft: 18 }}>
              {refused.map((file) => (
                <li key={file.name}>
                  <strong>{file.name}</strong>: {reasonText(file)}
                </li>
              ))}
            </ul>
          ) : (
            said
          )}
          {timingOffers(refused).map((offer) => (
            <Button key={offer.fps} size="small" style={{ marginTop: 8 }} onClick={() => onFrameByFrame(offer)}>
              Import {offer.names.length === 1 ? offer.names[0] : `${offer.names.length} files`} frame by frame at{' '}
              {rateText(offer.fps)} frames a second
            </Button>
          ))}
        </>
      }
    />
  );
}
