import type { ImportOut } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { StepProps } from './import-step';

/** Which sheet is taken in, and which of its rows holds the headings: chosen among the first rows as they stand. */
export const SheetChoice = ({ of, acts }: StepProps) => {
  const { t } = useTranslation('files');
  const { preview, work } = of;
  const [isOpen, setOpen] = useState(false);
  if (!preview) return null;
  return (
    <div className="sheetchoice">
      <button type="button" className="textact" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {t(isOpen ? 'sheet.close' : 'sheet.open')}
      </button>
      {isOpen && (
        <Preview
          preview={preview}
          isBusy={work !== null || acts.arrange.isPending}
          onChoose={(chosen) => acts.arrange.mutate(chosen)}
        />
      )}
    </div>
  );
};

type PreviewProps = {
  preview: NonNullable<ImportOut['preview']>;
  isBusy: boolean;
  onChoose: (chosen: { sheet: number; headingRow?: number }) => void;
};

const Preview = ({ preview: { sheets, at, headingRow }, isBusy, onChoose }: PreviewProps) => {
  const { t } = useTranslation('files');
  const rows = sheets[at]?.rows ?? [];
  const width = Math.max(0, ...rows.map(({ cells }) => cells.length));
  return (
    <>
      {sheets.length > 1 && (
        <div className="resultchips" role="group" aria-label={t('sheet.sheets')}>
          {sheets.map(({ name }, i) => (
            <button
              key={i}
              type="button"
              className={i === at ? 'chip on' : 'chip'}
              aria-pressed={i === at}
              disabled={isBusy}
              onClick={() => onChoose({ sheet: i })}
            >
              {name}
            </button>
          ))}
        </div>
      )}
      <p className="source">{t('sheet.lead')}</p>
      <div className="gridbox" role="region" aria-label={t('sheet.rows')} tabIndex={0}>
        <table className="repairgrid preview">
          <tbody>
            {rows.map(({ row, cells }) => (
              <tr
                key={row}
                className={row === headingRow ? 'headings' : row < headingRow ? 'above' : undefined}
              >
                <th scope="row" className="n">
                  {row}
                </th>
                <td>
                  <input
                    type="radio"
                    name="heading-row"
                    aria-label={t('sheet.row', { row })}
                    checked={row === headingRow}
                    disabled={isBusy}
                    onChange={() => onChoose({ sheet: at, headingRow: row })}
                  />
                </td>
                {Array.from({ length: width }, (_, i) => (
                  <td key={i}>{cells[i] ?? ''}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
};
