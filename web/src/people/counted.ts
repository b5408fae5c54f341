// Who counts in headcount, in the words of the organisation's worker types: figures say of whom they are.
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useReferenceRegister } from '../time/time.queries';

/** Names of the worker types that count, in the plural where it is known: "employees and apprentices". */
export const useCountedTypes = (): string => {
  const { t, i18n } = useTranslation();
  const { on } = useLens();
  const register = useReferenceRegister();
  return useMemo(() => {
    const isGerman = i18n.language === 'de';
    const names = [...(register?.allOn('list_entry', on) ?? [])]
      .filter(({ values: { list, flags } }) => list === 'worker_type' && flags.counted !== false)
      .map(({ values: { label } }) =>
        isGerman
          ? label.de
          : t(`people.types.${label.en.toLowerCase() as 'employee'}`, { defaultValue: label.en }),
      );
    return new Intl.ListFormat(isGerman ? 'de' : 'en-GB', { type: 'conjunction' }).format(names);
  }, [register, on, t, i18n.language]);
};

/** Figures of people with those that are not in them: "1,268 employees and apprentices, with all others 1,299". */
export const useWithOthers = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const types = useCountedTypes();
  return (people: number, others: number): string => {
    const shown = format.number(people);
    if (others === 0) return t('people.counted', { shown, types });
    return t('people.withOthers', { shown, types, all: format.number(people + others) });
  };
};

/** How many are listed, and how many of them count. */
export const useCountSaid = (
  status: string,
  { total, notCounted }: { total: number; notCounted: number },
): string => {
  const { t } = useTranslation();
  const format = useFormat();
  const types = useCountedTypes();
  const withOthers = useWithOthers();
  if (status === 'counted') return withOthers(total, notCounted);
  const all = t('people.count', { count: total, shown: format.number(total) });
  return notCounted === 0
    ? all
    : t('people.ofThem', { all, shown: format.number(total - notCounted), types });
};
