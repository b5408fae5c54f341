import dayjs from 'dayjs';
import 'dayjs/locale/de';
import 'dayjs/locale/en-gb';
import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { setGermanLocale } from '../frame/locale';
import type { FileTexts } from '../files/file-texts';
import type { ReportTexts } from '../measures/report-texts';
import { type Texts, en } from './en';

declare module 'i18next' {
  interface CustomTypeOptions {
    defaultNS: 'translation';
    // keys hold underscores themselves
    pluralSeparator: '+';
    contextSeparator: '~';
    resources: { translation: Texts; reports: ReportTexts; files: FileTexts };
  }
}

// calendars begin the week on Monday and name months in the language
i18next.on('languageChanged', (language) => dayjs.locale(language === 'de' ? 'de' : 'en-gb'));

// German is loaded when it is wanted: the first script stays small
const loadGerman = async (): Promise<void> => {
  if (i18next.hasResourceBundle('de', 'translation')) return;
  const { de, locale } = await import('./german');
  setGermanLocale(locale);
  i18next.addResourceBundle('de', 'translation', de);
};

export const startTexts = async (): Promise<void> => {
  const kept = localStorage.getItem('gremium-language');
  const language = kept ?? (navigator.language.startsWith('de') ? 'de' : 'en');
  await i18next.use(initReactI18next).init({
    lng: 'en',
    fallbackLng: 'en',
    pluralSeparator: '+',
    contextSeparator: '~',
    resources: { en: { translation: en } },
    interpolation: { escapeValue: false },
  });
  if (language === 'de') await setLanguage('de', false);
};

export const setLanguage = async (language: 'en' | 'de', keep = true): Promise<void> => {
  if (keep) localStorage.setItem('gremium-language', language);
  if (language === 'de') await loadGerman();
  await i18next.changeLanguage(language);
};
