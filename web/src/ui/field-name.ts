import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';

/** What a field is called in a section: its own word there, else what the field is called everywhere. */
export const useFieldName = () => {
  const { t, i18n } = useTranslation();
  return (section: string, name: string): string => {
    const own = `fieldOf.${section}.${name}`;
    return i18n.exists(own)
      ? t(own as 'field.value')
      : t(`field.${name as keyof Texts['field']}`, { defaultValue: name });
  };
};
