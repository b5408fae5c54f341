import { useTranslation } from 'react-i18next';

/** Words that one view keeps beside itself, in the language of the user. */
export const useWords = <W>({ en, de }: { en: W; de: W }): W =>
  useTranslation().i18n.language === 'de' ? de : en;
