// The slips of all kinds, each loaded when it is opened: `slips/<kind>.ts`.
import type { MovementKind } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import type { SlipDeclaration } from './slip-declared';

type Module = { declared: SlipDeclaration };

const modules = import.meta.glob<Module>('./slips/*.ts');

/** What the slip of a kind says of itself; undefined until it is loaded. */
export const useSlipOf = (kind: MovementKind): SlipDeclaration | undefined =>
  useQuery({
    queryKey: ['slip', kind],
    queryFn: async () => {
      const load = modules[`./slips/${kind}.ts`];
      if (!load) throw new Error(`there is no slip of the kind ${kind}`);
      return (await load()).declared;
    },
    staleTime: Infinity,
    meta: { reads: [] },
  }).data;
