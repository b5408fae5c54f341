import dayjs from 'dayjs';
import 'dayjs/locale/de';
import 'dayjs/locale/en-gb';
import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { de } from './de';
import { type Texts, en } from './en';

declare module 'i18next' {
  interface CustomTypeOptions {
    defaultNS: 'translation';
    // keys hold underscores themselves
    pluralSeparator: '+';
    contextSeparator: '~';
    resources: { translation: Texts };
  }
}

const kept = localStorage.getItem('gremium-language');

// calendars begin the week on Monday and name months in the language
i18next.on('languageChanged', (language) => dayjs.locale(language === 'de' ? 'de' : 'en-gb'));

export const startTexts = (): Promise<unknown> =>
  i18next.use(initReactI18next).init({
    lng: kept ?? (navigator.language.startsWith('de') ? 'de' : 'en'),
    fallbackLng: 'en',
    pluralSeparator: '+',
    contextSeparator: '~',
    resources: { en: { translation: en }, de: { translation: de } },
    interpolation: { escapeValue: false },
  });

export const setLanguage = (language: 'en' | 'de'): void => {
  localStorage.setItem('gremium-language', language);
  document.documentElement.lang = language;
  void i18next.changeLanguage(language);
};
