// What can be begun from a record: the kinds of movements that say so, as far as the user may and the record is in the state.
import {
  type Day,
  type MovementKind,
  type Named,
  type Kind,
  movementKinds,
  movementOf,
  namedIn,
} from '@gremium/contract';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens, useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { newKey } from '../time/kept';
import { keptMovements } from './kept-movements';

/** A record as acts look at it: what it is called, its ids by the fields they fill, its states on the day. */
export type Begun = {
  kind: Kind;
  id: number;
  name: string;
  ids: Readonly<Record<string, number | undefined>>;
  states: readonly string[];
};

export type Act = {
  kind: MovementKind;
  label: string;
  letter: string | undefined;
  isAside: boolean;
  start: () => void;
};

/** Opens a slip; it proposes the day of the lens and keeps its own when the lens moves on. */
export const useStart = () => {
  const { on } = useLens();
  const set = useSetParams();
  return useCallback(
    (
      kind: MovementKind,
      about: Named & { kind: Kind },
      input: Record<string, unknown>,
      from?: Day,
      names: readonly Named[] = [],
    ) => {
      const key = newKey();
      const { day } = movementOf(kind);
      keptMovements.open({
        key,
        kind,
        about: `${about.kind} ${about.id}`,
        input: day.isOpen && !from ? input : { ...input, [day.field]: from ?? on },
        typed: {},
        // an employment is called as its person
        names: [
          ...names,
          about,
          ...namedIn(movementOf(kind).input, input).map(({ kind: of, id }) => ({
            kind: of,
            id,
            name: about.name,
          })),
        ],
      });
      set({ slip: key, undo: null, do: null });
    },
    [on, set],
  );
};

/** What can be begun from a record, in the order of the kinds. */
export const useActs = ({ kind: record, id, name, ids, states }: Begun): Act[] => {
  const { i18n } = useTranslation();
  const may = useMay();
  const start = useStart();
  const isGerman = i18n.language === 'de';
  return movementKinds.flatMap((kind) => {
    const { starts, right, act, key, aside } = movementOf(kind);
    const from = starts[record];
    const value = from && (from.several ? id : ids[from.field]);
    if (!from || value === undefined || !may.do(right)) return [];
    if (from.while && !from.while.some((state) => states.includes(state))) return [];
    return {
      kind,
      label: isGerman ? act.de : act.en,
      letter: key,
      isAside: aside === true,
      start: () => start(kind, { kind: record, id, name }, { [from.field]: from.several ? [value] : value }),
    };
  });
};
