// Pages made into a file, in the browser. Loaded when a report is first asked for.
import pdfmake from 'pdfmake/build/pdfmake';
import bold from 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf?url';
import normal from 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf?url';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

const at = (path: string): string => new URL(path, location.href).href;

/** Makes a PDF; its letters are those of DejaVu Sans: Latin, Greek, Cyrillic and more, but no Chinese or Japanese. */
export function pdfFile(pages: TDocumentDefinitions): Promise<Blob> {
  pdfmake.addFonts({ DejaVu: { normal: at(normal), bold: at(bold), italics: at(normal), bolditalics: at(bold) } });
  return pdfmake.createPdf(pages).getBlob();
}
