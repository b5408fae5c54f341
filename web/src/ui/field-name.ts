import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { ownFieldOf, settingOf } from '../time/catalogue-now';

/** What a field is called in a section: as the organisation says, its own word there, else what the field is called everywhere. */
export const useFieldName = () => {
  const { i18n } = useTranslation();
  const presetName = usePresetFieldName();
  return (section: string, name: string): string => {
    const said = ownFieldOf(name)?.label ?? settingOf(section, name)?.values.label;
    return said ? said[i18n.language === 'de' ? 'de' : 'en'] : presetName(section, name);
  };
};

/** What a preset field is called where the organisation says nothing. */
export const usePresetFieldName = () => {
  const { t, i18n } = useTranslation();
  return (section: string, name: string): string => {
    const own = `fieldOf.${section}.${name}`;
    return i18n.exists(own)
      ? t(own as 'field.value')
      : t(`field.${name as keyof Texts['field']}`, { defaultValue: name });
  };
};
