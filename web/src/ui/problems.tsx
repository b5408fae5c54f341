import type { Param, Problem, ThingRef } from '@gremium/contract';
import type { TOptions } from 'i18next';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { Refused } from '../api';
import { ownFieldOf } from '../time/catalogue-now';
import type { Texts } from '../texts/en';
import { type Format, useFormat } from '../texts/format';
import { useSectionName } from './section-name';

// Said of a field, and without its name of nothing.
const OF_FIELD = new Set<Problem['code']>([
  'honour_needs',
  'evidence_missing',
  'two_of_one',
  'day_unlikely',
  'day_ahead',
  'days_turned',
]);

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** Sentences of problems: things by their labels, days in the organisation's format, standings and marks in words. */
export const useSentence = () => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const sectionName = useSectionName();
  return useCallback(
    ({ code, params, field }: Problem): string => {
      const nameOf = ({ label, hidden }: ThingRef) => (hidden ? t('notSeen') : (label ?? ''));
      const said = ([name, param]: [string, Param]): [string, string] => {
        if (Array.isArray(param)) return [name, listed(name, param.map(nameOf))];
        if (typeof param === 'object') return [name, nameOf(param)];
        // what may not be given: an act, or a section
        if (name === 'given')
          return [
            name,
            i18n.exists(`choice.${param}`) ? t(`choice.${param}` as never) : sectionName(param as never),
          ];
        return [name, plain(t as never, format, name, param)];
      };
      const words = Object.fromEntries(Object.entries(params).map(said)) as TOptions;
      // why somebody is left out is a sentence of its own
      if ('why' in params) words['why'] = t(`problem.${params['why'] as Problem['code']}`, words);
      const sentence = t(sentenceKey(code, params), words);
      // what is wrong in an own field is said with its name; a value that does not fit, with that of the field it stands in
      const own = ownFieldOf(field?.split('.').at(-1) ?? '')?.label[i18n.language === 'de' ? 'de' : 'en'];
      if (own) return `${own}: ${sentence}`;
      const key = `field.${field?.split('.').at(-1) ?? ''}`;
      return (code.endsWith('_invalid') || OF_FIELD.has(code)) && i18n.exists(key)
        ? `${t(key as 'field.value')}: ${sentence}`
        : sentence;
    },
    [t, i18n, format, sectionName],
  );
};

// A path goes downwards; names with commas of their own are parted by something else.
const listed = (name: string, labels: readonly string[]): string => {
  if (name === 'path') return [...labels].reverse().join(' › ');
  return labels.join(labels.some((label) => label.includes(',')) ? '; ' : ', ');
};

// Of a missing right is said which, and who can give it, where that is known.
const sentenceKey = (code: Problem['code'], params: Problem['params']) => {
  if (code !== 'right_missing' || !('given' in params)) return `problem.${code}` as const;
  return 'who' in params ? ('refusal.who' as const) : ('refusal.given' as const);
};

const AMOUNTS = new Set([
  ...['minimum', 'maximum', 'amount', 'before', 'after'],
  ...['gradeMinimum', 'gradeMaximum', 'weekly', 'gradeHours'],
  ...['full', 'limit', 'fitting', 'needed', 'share'],
]);

const plain = (t: (key: string) => string, format: Format, name: string, param: string | number): string => {
  if (name === 'hundredths') return `${Number(param) > 0 ? '+' : ''}${format.hundredths(Number(param))}`;
  if (name === 'over') return format.hundredths(Number(param));
  if (name === 'standing' || name === 'was' || name === 'is')
    return t(`mark.${param as keyof Texts['mark']}`);
  if (name === 'basis' || name === 'usual') return t(`choice.${param}`);
  if (AMOUNTS.has(name) && Number.isFinite(Number(param))) return format.decimal(String(param));
  if (typeof param === 'string' && (DAY.test(param) || param.endsWith('infinity'))) return format.day(param);
  return String(param);
};

/** The problems of a refused call, in words. */
export const Problems = ({ of }: { of: Error | null }) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  if (!of) return null;
  const problems = of instanceof Refused ? of.problems : [];
  const sentences = problems.length === 0 ? [t('problem.failed')] : problems.map(sentence);
  return (
    <div className="problem" role="alert">
      {[...new Set(sentences)].map((words) => (
        <div key={words}>! {words}</div>
      ))}
    </div>
  );
};
