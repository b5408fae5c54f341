// A record as pages to read or to sign: set by pdfmake, with the fonts that come with it.
import { createRequire } from 'node:module';
import path from 'node:path';
import { recordFileWords } from '@gremium/contract';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { OutHead, SectionRead } from './record-out';
import { type Language, dayWord } from './record-words';

const fonts = path.join(
  path.dirname(createRequire(import.meta.url).resolve('pdfmake/package.json')),
  'fonts/Roboto',
);
const font = (cut: string): string => path.join(fonts, `Roboto-${cut}.ttf`);
pdfmake.addFonts({
  Roboto: {
    normal: font('Regular'),
    bold: font('Medium'),
    italics: font('Italic'),
    bolditalics: font('MediumItalic'),
  },
});
// nothing outside is ever asked for
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((file) => file.startsWith(fonts));

// What is beside the matter.
const SOFT = '#555555';

const sectionOf = ({ label, rows }: SectionRead): Content => ({
  stack: [
    { text: label, style: 'section' },
    ...rows.map(({ period, facts }): Content => ({
      unbreakable: facts.length < 14,
      margin: [0, 0, 0, 6],
      stack: [
        ...(period === '' ? [] : [{ text: period, style: 'period' }]),
        {
          layout: 'noBorders',
          table: {
            widths: [150, '*'],
            body: facts.map(({ label: name, value }) => [{ text: name, style: 'label' }, { text: value }]),
          },
        },
      ],
    })),
  ],
});

/** What pages are made of. */
export type PagesAsk = { head: OutHead; language: Language; sections: readonly SectionRead[] };

/** The pages of a record. */
export const recordPdf = (
  head: OutHead,
  language: Language,
  sections: readonly SectionRead[],
): Promise<Buffer> => {
  const said = recordFileWords[language];
  const clocks = [
    ...(head.number === '' ? [] : [`${said.number} ${head.number}`]),
    `${said.on} ${dayWord(head.on, language)}`,
    `${said.recorded} ${head.recordedBy.replace('T', ' ').slice(0, 19)} UTC, ${said.entry} ${head.entry}`,
    `${said.by} ${head.by}`,
  ].join(' · ');
  const definition: TDocumentDefinitions = {
    info: { title: head.title, author: head.organisation },
    pageSize: 'A4',
    pageMargins: [56, 56, 56, 56],
    defaultStyle: { font: 'Roboto', fontSize: 9.5, lineHeight: 1.15 },
    styles: {
      title: { fontSize: 18 },
      section: { fontSize: 12, bold: true, margin: [0, 10, 0, 4] },
      period: { italics: true, color: SOFT, margin: [0, 2, 0, 1] },
      label: { color: SOFT },
      small: { fontSize: 8, color: SOFT },
    },
    content: [
      { text: head.organisation, style: 'small' },
      { text: head.title, style: 'title' },
      { text: clocks, style: 'small', margin: [0, 2, 0, 8] },
      ...(sections.length === 0 ? [{ text: said.nothing }] : sections.map(sectionOf)),
    ],
    footer: (at, of) => ({
      columns: [
        { text: head.title, style: 'small' },
        { text: said.page(at, of), style: 'small', alignment: 'right' },
      ],
      margin: [56, 16, 56, 0],
    }),
  };
  return pdfmake.createPdf(definition).getBuffer();
};
