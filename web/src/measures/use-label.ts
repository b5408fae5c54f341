import { useTranslation } from 'react-i18next';

/** A label in the language of the page. */
export const useLabel = () => {
  const { i18n } = useTranslation();
  return (label: { en: string; de: string }) => (i18n.language === 'de' ? label.de : label.en);
};
