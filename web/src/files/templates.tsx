import './files.css';
import { ImportField, importFields } from '@gremium/contract';
import { Select } from 'antd';
import i18next from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFieldLabel } from './import-field-label';
import { de, en } from './file-texts';
import { Views } from '../ui/views';

i18next.addResourceBundle('en', 'files', en);
i18next.addResourceBundle('de', 'files', de);

/** Empty files to be filled in: which columns, and in which form. */
export const Templates = () => {
  const { t } = useTranslation('files');
  const labelOf = useFieldLabel();
  const [chosen, setChosen] = useState<ImportField[]>([]);
  const linkTo = (format: string) =>
    `/api/import-template?${new URLSearchParams({ format, ...(chosen.length > 0 ? { columns: chosen.join(',') } : {}) }).toString()}`;
  return (
    <main className="sheet templates">
      <Views of="files" />
      <div className="templatebody">
        <h1>{t('templates')}</h1>
        <p>{t('template.lead')}</p>
        <label htmlFor="template-columns">
          <span className="soft">{t('template.columns')}</span>
          <Select<ImportField[]>
            id="template-columns"
            mode="multiple"
            variant="underlined"
            aria-label={t('template.choose')}
            placeholder={t('template.all')}
            showSearch={{ optionFilterProp: 'label' }}
            value={chosen}
            options={ImportField.options
              .filter((value) => !importFields[value].splits)
              .map((value) => ({ value, label: labelOf(value) }))}
            onChange={setChosen}
          />
        </label>
        <p className="takeout">
          {t('template.take')}{' '}
          {(['xlsx', 'csv', 'tsv'] as const).map((format) => (
            <a key={format} className="textact" href={linkTo(format)} download>
              {t(`template.${format}`)}
            </a>
          ))}
        </p>
      </div>
    </main>
  );
};
