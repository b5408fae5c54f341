// A few papers of nobody: the demo's documents and evidence.
import { createHash } from 'node:crypto';
import type { FileRef, FileType } from '@gremium/contract';

export type Paper = { file: FileRef; bytes: Buffer };

// One page with a few lines, as small as such a file can be.
const pdfOf = (lines: readonly string[]): Buffer => {
  const text = lines
    .map((line, i) => `BT /F1 ${i === 0 ? 20 : 12} Tf 72 ${740 - i * 26} Td (${line}) Tj ET`)
    .join('\n');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${text.length} >>\nstream\n${text}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Times-Roman >>',
  ];
  let out = '%PDF-1.4\n';
  const starts = objects.map((object, i) => {
    const at = out.length;
    out += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = starts.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  return Buffer.from(
    `${out}xref\n0 6\n0000000000 65535 f \n${table}trailer\n<< /Size 6 /Root 1 0 R >>\nstartxref\n${out.length}\n%%EOF\n`,
    'latin1',
  );
};

const digestOf = (of: string | Buffer): string => createHash('sha256').update(of).digest('hex');

const paper = (name: string, type: FileType, bytes: Buffer): Paper => ({
  file: {
    id: digestOf(name).slice(0, 32),
    name,
    type,
    bytes: bytes.length,
    digest: digestOf(bytes),
  },
  bytes,
});

/** Each by what it is. */
export const papers = {
  contract: paper(
    'Contract of employment.pdf',
    'pdf',
    pdfOf(['Contract of employment', 'Vessmar Ferries', 'Made up for the demonstration. Nobody signed it.']),
  ),
  order: paper(
    'Order of honours 7-2026.pdf',
    'pdf',
    pdfOf([
      'Order of honours 7/2026',
      'For courage shown at the rescue off the lightship.',
      'Made up for the demonstration.',
    ]),
  ),
  talk: paper(
    'Notes of the yearly talk.txt',
    'txt',
    Buffer.from(
      'Yearly talk\n\nWould like to sail as mate next season.\nAgreed: course in passage planning.\n',
    ),
  ),
};
