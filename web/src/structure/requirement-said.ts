import type { AskedOf, Register } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useWords } from '../texts/words';
import { labelIn } from '../ui/field-value';
import { positionWords } from './position-words';

/** Says what a requirement asks: one of what it names, of a skill at which level. */
export const useRequirementSaid = (register: Register) => {
  const words = useWords(positionWords);
  const { i18n } = useTranslation();
  return ({ row: { values } }: AskedOf): string => {
    const ids = values.skillIds ?? values.certificateIds ?? values.educationIds ?? [];
    const names = ids.map((entry) => labelIn(register, entry, i18n.language)).join(', ');
    const level = values.level === null || values.skillIds === null ? '' : `, ${words.level(values.level)}`;
    return `${ids.length > 1 ? `${words.anyOf} ` : ''}${names}${level}`;
  };
};
