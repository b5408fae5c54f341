// Accounts, gifts and roles, asked and changed.
import {
  type AccountOut,
  type AccountRole,
  type Day,
  type Label,
  RoleName,
  accessEndpoints,
  ruleOf,
} from '@gremium/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { useMay } from '../frame/session';
import { wholeCatalogue } from '../time/catalogue-now';
import { accessWords } from './access-words';

const KEY = ['accounts'];

/** Everybody with an account; nothing for whoever may not let others in. */
export const useAccounts = (): { data: readonly AccountOut[] | undefined; error: Error | null } => {
  const may = useMay();
  const { data, error } = useQuery({
    queryKey: KEY,
    queryFn: () => call(accessEndpoints.accounts, {}),
    enabled: may.do({ everywhere: 'access' }),
  });
  return { data: data?.accounts, error };
};

/** What somebody sees on a day. */
export const useSight = (id: number, on: Day | undefined) =>
  useQuery({
    queryKey: [...KEY, id, 'sight', on],
    queryFn: () => call(accessEndpoints.accountSight, { params: { id }, query: on ? { on } : {} }),
  });

/** How many people a gift would add. */
export const useGiftPreview = (id: number, gift: AccountRole | null) =>
  useQuery({
    queryKey: [...KEY, id, 'gift', gift],
    queryFn: () =>
      call(accessEndpoints.giveRole, {
        params: { id },
        body: { gift: gift as AccountRole, why: null, preview: true },
      }),
    enabled: gift !== null,
    retry: false,
  });

/** An act on accounts, after which they are asked anew. */
export const useAccountAct = <A, R>(run: (asked: A) => Promise<R>) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: run,
    onSuccess: () => queries.invalidateQueries({ queryKey: KEY }),
  });
};

/** What roles are called: preset ones by our words, own ones by themselves. */
export const useRoleName = () => {
  const language = useTranslation().i18n.language === 'de' ? 'de' : 'en';
  return (code: string): string => roleLabel(code)[language];
};

/** What a role is called, in both languages. */
export const roleLabel = (code: string): Label =>
  wholeCatalogue().roles.get(code)?.values.label ?? {
    en: accessWords.en.roleNames[code] ?? code,
    de: accessWords.de.roleNames[code] ?? code,
  };

/** The codes of all roles: the organisation's own, then those that ship. */
export const roleCodes = (): { own: string[]; shipped: string[] } => ({
  own: [...wholeCatalogue().roles.keys()],
  shipped: [...RoleName.options],
});

/** Whether a role is given to nobody anew. */
export const isRetiredRole = (code: string): boolean =>
  wholeCatalogue().roles.get(code)?.values.retired === true;

/** Whether a role lets others in. */
export const letsIn = (code: string): boolean =>
  ruleOf(code, wholeCatalogue())?.acts.includes('access') === true;
