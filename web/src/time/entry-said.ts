import type { JournalLine } from '@gremium/contract';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { useEntryName } from './entry-name';
import { useSectionName } from '../ui/section-name';

/** What an entry did as one sentence: "Pay of Liis Kask from 1 Jan 2027, yearly round". */
export const useEntrySaid = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const nameOfEntry = useEntryName();
  const nameOfSection = useSectionName();
  return useCallback(
    (entry: JournalLine): string => {
      const { kind, about, isMore, changed, reason, undoes } = entry;
      const names = about.map(({ name }) => name).join(', ');
      const whom = isMore ? t('journal.andOthers', { names }) : names;
      const said = (what: string) => (reason ? `${what}, ${reason}` : what);
      const [first] = changed;
      if (first && whom && kind !== 'create') {
        const what = changed.map(({ section }) => nameOfSection(section)).join(', ');
        const day = format.day(first.day);
        const isAlways = first.day === '-infinity' || first.day === 'infinity';
        const key = kind === 'mend' || isAlways ? 'saidMend' : first.isEnd ? 'saidEnd' : 'saidEdit';
        return said(t(`journal.${key}`, { what, whom, day }));
      }
      if (kind === 'undo' && undoes.length > 0)
        return said(t('journal.saidUndo', { count: undoes.length, numbers: undoes.join(', ') }));
      return said(whom ? `${nameOfEntry(kind)}: ${whom}` : nameOfEntry(kind));
    },
    [t, format, nameOfEntry, nameOfSection],
  );
};
