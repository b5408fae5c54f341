import type { RecordOut } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import type { Edits, SectionEdit } from './edits';
import { EntryLinks } from './entry-links';
import { useSectionName } from '../ui/section-name';

type SavedProps = { edits: Edits; entries: RecordOut['entries']; name: string };

/** After a save: what was saved, from when, the way to its entry, and its undo; until something else is written. */
export const SavedLine = ({ edits, entries, name }: SavedProps) => {
  const { t } = useTranslation();
  const saidOf = useSaidOf();
  const { save, edits: open } = edits;
  const number = save.data?.entry ?? null;
  // one that was undone made none of the versions that stand
  const stands = entries.some((entry) => entry.number === number);
  if (number === null || !stands || open.length > 0) return null;
  const saved = Object.values(JSON.parse(save.variables ?? '{}') as Record<string, SectionEdit>);
  return (
    <div className="savedline" role="status">
      <span className="moss">✓</span> {t('edit.saved', { name, what: saved.map(saidOf).join(', ') })}{' '}
      <EntryLinks number={number} />
    </div>
  );
};

/** One edit in words: "Pay from 1 Jan 2027", "Contact corrected", "Contact ends 31 Dec 2026". */
const useSaidOf = () => {
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  const format = useFormat();
  return ({
    section,
    mode,
    from,
    lastDay,
  }: Pick<SectionEdit, 'section' | 'mode' | 'from' | 'lastDay'>): string => {
    const name = nameOfSection(section);
    const day = from === '-infinity' ? t('time.always') : format.day(from);
    if (mode === 'mend') return t('edit.savedMend', { name });
    if (mode === 'end') return t('edit.savedEnd', { name, day });
    if (lastDay) return t('edit.savedUntil', { name, day, until: format.day(lastDay) });
    return t('edit.savedFrom', { name, day });
  };
};
