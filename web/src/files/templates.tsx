import './files.css';
import { Select } from 'antd';
import i18next from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Choice } from '../ui/field-input';
import { Problems } from '../ui/problems';
import { de, en } from './file-texts';
import { Views } from '../ui/views';
import { useImportSubjects } from './files.queries';

i18next.addResourceBundle('en', 'files', en);
i18next.addResourceBundle('de', 'files', de);

/** Empty files to be filled in: about what, which columns, and in which form. */
export const Templates = () => {
  const { t } = useTranslation('files');
  const subjects = useImportSubjects();
  const [subject, setSubject] = useState('people');
  const [chosen, setChosen] = useState<string[]>([]);
  const columns = subjects.data?.find(({ name }) => name === subject)?.columns ?? [];
  const linkTo = (format: string) => {
    const asked = { format, subject, ...(chosen.length > 0 ? { columns: chosen.join(',') } : {}) };
    return `/api/import-template?${new URLSearchParams(asked).toString()}`;
  };
  return (
    <main className="sheet templates">
      <Views of="files" />
      <div className="templatebody">
        <h1>{t('templates')}</h1>
        <p>{t('template.lead')}</p>
        <Problems of={subjects.error} />
        <label htmlFor="template-subject">
          <span className="soft">{t('subject')}</span>
          <Choice
            id="template-subject"
            label={t('subject')}
            clearable={false}
            options={(subjects.data ?? []).map(({ name, label }) => ({ value: name, label }))}
            value={subject}
            onChange={(value) => {
              setSubject(String(value));
              setChosen([]);
            }}
          />
        </label>
        <label htmlFor="template-columns">
          <span className="soft">{t('template.columns')}</span>
          <Select<string[]>
            id="template-columns"
            mode="multiple"
            variant="underlined"
            aria-label={t('template.choose')}
            placeholder={t('template.all')}
            showSearch={{ optionFilterProp: 'label' }}
            value={chosen}
            options={columns
              .filter(({ name }) => name !== 'wholeName')
              .map(({ name, label }) => ({ value: name, label }))}
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
