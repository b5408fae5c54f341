import english from 'antd/locale/en_GB';

type Locale = typeof english;
let german: Locale | undefined;

/** The component library's German texts come with the German catalogue, not with the first script. */
export const setGermanLocale = (locale: Locale): void => {
  german = locale;
};
export const localeOf = (language: string): Locale => (language === 'de' ? (german ?? english) : english);
