import type { Param, Problem, ThingRef } from '@gremium/contract';
import { problemSentences as de } from '@gremium/contract/sentences/de';
import { problemSentences as en } from '@gremium/contract/sentences/en';
import { labels as labelsDe } from '@gremium/contract/labels/de';
import { labels as labelsEn } from '@gremium/contract/labels/en';
import i18next from 'i18next';

const texts = i18next.createInstance({
  resources: { en: { translation: en }, de: { translation: de } },
  keySeparator: false,
  interpolation: { escapeValue: false },
});
await texts.init();

// keys are codes of problems, not those of the page's catalogue
const t = texts.t as unknown as (key: string, options: object) => string;

const choice = { en: labelsEn.choice, de: labelsDe.choice };

const DAY = /^(\d{4})-(\d{2})-(\d{2})$/;

const said = (param: Param, { hidden, open }: { hidden: string; open: string }): string => {
  const nameOf = (ref: ThingRef) => (ref.hidden ? hidden : (ref.label ?? ''));
  if (Array.isArray(param)) return param.map(nameOf).join(', ');
  if (typeof param === 'object') return nameOf(param);
  if (param === 'infinity') return open;
  return String(param).replace(DAY, '$3.$2.$1');
};

/** The sentence of a problem in a language, for files; days as 31.12.2026. */
export const sentenceOf = ({ code, params }: Problem, language: 'en' | 'de'): string => {
  const hidden = language === 'de' ? 'ein Datensatz, den Sie nicht sehen dürfen' : 'a record you may not see';
  const open = language === 'de' ? 'auf Weiteres' : 'further notice';
  const words: Record<string, string> = { lng: language };
  for (const [name, param] of Object.entries(params))
    words[name] = name === 'basis' ? choice[language][param as 'month'] : said(param, { hidden, open });
  // why somebody is left out is a sentence of its own
  if (typeof params['why'] === 'string') words['why'] = t(params['why'], words);
  return t(code, words);
};
