import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { ownFieldOf } from '../time/catalogue-now';

/** What a field is called in a section: its own word there, else what the field is called everywhere. */
export const useFieldName = () => {
  const { t, i18n } = useTranslation();
  return (section: string, name: string): string => {
    const defined = ownFieldOf(name);
    if (defined) return defined.label[i18n.language === 'de' ? 'de' : 'en'];
    const own = `fieldOf.${section}.${name}`;
    return i18n.exists(own)
      ? t(own as 'field.value')
      : t(`field.${name as keyof Texts['field']}`, { defaultValue: name });
  };
};
