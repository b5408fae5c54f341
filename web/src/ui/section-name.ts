import type { SectionName } from '@gremium/contract';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { ownSectionOf } from '../time/catalogue-now';

/** What a section is called: an own one says it itself. */
export const useSectionName = () => {
  const { t, i18n } = useTranslation();
  return useCallback(
    (section: SectionName): string =>
      ownSectionOf(section)?.label[i18n.language === 'de' ? 'de' : 'en'] ??
      t(`section.${section as keyof Texts['section']}`, { defaultValue: section }),
    [t, i18n.language],
  );
};
