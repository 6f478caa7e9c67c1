import { useRef, useState } from 'react';
import type { ImportOptions } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { api } from '../../data/api.ts';
import { uploadFiles, type Outcome } from '../../data/upload.ts';
import { filesNamed, type TimingOffer } from '../../ui/importing.ts';

interface Sending {
  name: string;
  /** 0..1; 1 while the server checks what it has got. */
  share: number;
  abort: () => void;
}
const NOTHING_REFUSED: Pick<Outcome, 'refused' | 'said'> = { refused: [], said: undefined };

/** Sends footage into the project: what is on its way, and what did not come in. */
export function useImport(projectId: string) {
  const dispatch = useAppDispatch();
  const [sending, setSending] = useState<Sending>();
  const [left, setLeft] = useState(NOTHING_REFUSED);
  const latest = useRef<File[]>([]);
  const send = async (files: File[], options: ImportOptions = {}) => {
    latest.current = files;
    const name = files.length === 1 ? files[0]!.name : `${files.length} files`;
    const progress = (share: number) => setSending((now) => now && { ...now, share });
    const upload = uploadFiles('uploadMedia', projectId, files, options, progress);
    setLeft(NOTHING_REFUSED);
    setSending({ name, share: 0, abort: upload.abort });
    setLeft(await upload.done);
    setSending(undefined);
    dispatch(api.util.invalidateTags(['Project', 'Jobs']));
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
