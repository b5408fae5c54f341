import type { ImportOut } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { useFormat } from '../texts/format';
import { PlainTable } from '../ui/plain-table';
import { useSentence } from '../ui/problems';
import { useImportSubjects } from './files.queries';
import { Step } from './import-step';

const COUNTS = ['read', 'new', 'changed', 'same', 'refused'] as const;

/** The files that one import consists of: what each is about and what its rows do; each opens to be seen to. */
export const ImportParts = ({ of: { parts } }: { of: ImportOut }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const to = useTo();
  const sentence = useSentence();
  const subjects = useImportSubjects();
  const about = (subject: string) =>
    subjects.data?.find(({ name }) => name === subject)?.label ?? (subject === 'any' ? '–' : subject);
  return (
    <Step number={2} name={t('parts.head')} look="done">
      <p>{t('parts.lead', { count: parts.length })}</p>
      <PlainTable
        heads={[
          { label: t('file.head') },
          { label: t('parts.about') },
          ...COUNTS.map((name) => ({ label: t(`check.${name}`), isNumber: true })),
        ]}
        rows={parts.map((part) => ({
          key: String(part.id),
          cells: [
            <Link key="file" to={to(`/files/imports/${part.id}`)}>
              {part.fileName}
            </Link>,
            part.state === 'cancelled' ? t('parts.left') : about(part.subject),
            ...COUNTS.map((name) =>
              part.counts && part.state !== 'cancelled' ? (
                <span key={name} className={name === 'refused' && part.counts.refused > 0 ? 'n wrong' : 'n'}>
                  {format.number(part.counts[name])}
                </span>
              ) : (
                ''
              ),
            ),
          ],
        }))}
      />
      {parts.map(
        (part) =>
          part.state !== 'cancelled' &&
          part.trouble.map((problem) => (
            <p key={`${part.id} ${problem.code}`} className="problem">
              ! {part.fileName}: {sentence(problem)}
            </p>
          )),
      )}
    </Step>
  );
};
