import { type ImportField, importFields } from '@gremium/contract';
import { useTranslation } from 'react-i18next';

/** Names of fields in the language of the page. */
export const useFieldLabel = () => {
  const { i18n } = useTranslation();
  const language = i18n.language === 'de' ? 'de' : 'en';
  return (field: ImportField): string => importFields[field].label[language];
};
