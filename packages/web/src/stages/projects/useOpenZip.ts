import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useNotices } from '../../app/Notices.tsx';
import { askForFile } from '../../ui/saveFile.ts';

interface Sending {
  /** 0..1; 1 while the server unpacks what it has got. */
  share: number;
  abort: () => void;
}
/** Sends a zip and goes to the project that it becomes; says what footage is missing, or why it became none. */
export function useOpenZip() {
  const [sending, setSending] = useState<Sending>();
  const { message } = useNotices();
  const navigate = useNavigate();
  const send = async (file: File) => {
    // not on the way to the first picture: few open a zip
    const { uploadArchive } = await import('../../data/upload.ts');
    const upload = uploadArchive(file, ({ share }) => setSending((now) => now && { ...now, share }));
    setSending({ share: 0, abort: upload.stop });
    const { opened, said } = await upload.done;
    setSending(undefined);
    if (!opened) return void message.error(said, 10);
    if (opened.missing.length > 0)
      void message.warning(`Its footage is not here: ${opened.missing.join(', ')}. Bring it in under Shots.`, 15);
    void navigate(`/projects/${opened.id}/shots`);
  };
  const ask = async () => {
    const file = await askForFile('.zip');
    if (file) await send(file);
  };
  return { sending, ask: () => void ask() };
}
