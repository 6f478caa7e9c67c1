import { useRef, useState } from 'react';
import type { SightingMeasurements } from '@mellow/contract';
import { useNotesQuery, useVerdictsQuery } from '../../data/reviews.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { saveBlob, saveFile } from '../../ui/saveFile.ts';

/** Makes the reports and has them saved; `making`: how far the pictures of one are. */
export function useReport(inHand: InHand, measurements: readonly SightingMeasurements[]) {
  const { document } = inHand;
  const { name, id } = document.project.value;
  const { data: verdicts = [] } = useVerdictsQuery(id);
  const { data: notes = [] } = useNotesQuery(id);
  const [making, setMaking] = useState<{ done: number; total: number }>();
  const stop = useRef<AbortController>(undefined);

  const savePdf = async () => {
    const stopping = (stop.current = new AbortController());
    try {
      const [{ reportPictures }, { reportPdf }, { pdfFile }] = await Promise.all([
        import('./reportPictures.ts'),
        import('./reportPdf.ts'),
        import('./pdfFile.ts'),
      ]);
      const told = (done: number, total: number) => setMaking({ done, total });
      const pictures = await reportPictures(inHand, told, stopping.signal);
      const at = new Date();
      saveBlob(
        `${name} report.pdf`,
        await pdfFile(reportPdf({ document, measurements, verdicts, notes, pictures, at })),
      );
    } catch (error) {
      if (!stopping.signal.aborted) throw error;
    } finally {
      setMaking(undefined);
    }
  };
  const save = async (kind: 'pdf' | 'csv' | 'cgats') => {
    if (kind === 'pdf') return savePdf();
    const { reportCgats, reportCsv } = await import('./report.ts');
    if (kind === 'csv') saveFile(`${name} report.csv`, reportCsv(document, measurements, verdicts), 'text/csv');
    else saveFile(`${name} colours.txt`, reportCgats(document, measurements, new Date().toISOString()), 'text/plain');
  };
  return { save, making, cancel: () => stop.current?.abort() };
}
