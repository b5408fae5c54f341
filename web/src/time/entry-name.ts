import { type EntryKind, type MovementKind, movementOf, movements } from '@gremium/contract';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';

const isMovement = (kind: EntryKind): kind is MovementKind => kind in movements;

/** What an entry is called: as its movement is, or as what was done. */
export const useEntryName = () => {
  const { t, i18n } = useTranslation();
  const isGerman = i18n.language === 'de';
  return useCallback(
    (kind: EntryKind): string => {
      if (!isMovement(kind)) return t(`entry.${kind as keyof Texts['entry']}`);
      const { name } = movementOf(kind);
      return isGerman ? name.de : name.en;
    },
    [t, isGerman],
  );
};
