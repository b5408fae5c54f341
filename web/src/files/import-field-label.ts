import type { ImportOut } from '@gremium/contract';
import { createContext, useCallback, useContext } from 'react';

/** What columns of the import that is shown can be taken for. */
export const ImportFields = createContext<ImportOut['fields']>([]);

/** Names of the columns of a file, in the language of the user. */
export const useFieldLabel = () => {
  const fields = useContext(ImportFields);
  return useCallback(
    (field: string): string => fields.find(({ name }) => name === field)?.label ?? field,
    [fields],
  );
};
