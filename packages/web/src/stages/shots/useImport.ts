import { useRef, useState } from 'react';
import type { ImportOptions } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { api } from '../../data/api.ts';
import type { Outcome, Upload } from '../../data/upload.ts';
import type { HowFar } from '../../data/sending.ts';
import { filesNamed, type TimingOffer } from '../../ui/importing.ts';

export interface OnItsWay extends HowFar {
  name: string;
  /** The user has paused it. */
  isPaused: boolean;
  stop: () => void;
  pause: () => void;
  goOn: () => void;
}
const NOTHING_REFUSED: Pick<Outcome, 'refused' | 'said'> = { refused: [], said: undefined };

/** Sends footage into the project: what is on its way, and what did not come in. */
export function useImport(projectId: string) {
  const dispatch = useAppDispatch();
  const [sending, setSending] = useState<OnItsWay>();
  const [left, setLeft] = useState(NOTHING_REFUSED);
  const latest = useRef<File[]>([]);
  const change = (by: Partial<OnItsWay>) => setSending((now) => now && { ...now, ...by });
  const send = async (files: File[], options: ImportOptions = {}) => {
    latest.current = files;
    const name = files.length === 1 ? files[0]!.name : `${files.length} files`;
    setLeft(NOTHING_REFUSED);
    // what sends is loaded when something is sent
    const { uploadFiles } = await import('../../data/upload.ts');
    const upload: Upload<Outcome> = uploadFiles('footage', projectId, files, options, change);
    setSending({
      name,
      share: 0,
      isWaiting: false,
      isPaused: false,
      stop: upload.stop,
      pause: () => {
        upload.pause();
        change({ isPaused: true });
      },
      goOn: () => {
        upload.goOn();
        change({ isPaused: false });
      },
    });
    setLeft(await upload.done);
    setSending(undefined);
    dispatch(api.util.invalidateTags(['Project', 'Jobs', 'Uploads']));
  };
  return {
    sending,
    left,
    send: (files: File[]) => void send(files),
    sendFrameByFrame: ({ fps, names }: TimingOffer) =>
      void send(filesNamed(latest.current, names), { fps, timing: 'frame by frame' }),
    forget: () => setLeft(NOTHING_REFUSED),
  };
}
