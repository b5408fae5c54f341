// What the slips of all transfers have alike: who goes where, and what is still needed of it.
import { listedFor } from './fits';
import type { SlipContext, SlipDeclaration, SlipRow } from './slip-declared';

/** Whom and where to, but for what the record it was begun from says itself. */
export const whoAndWhere = ({ about, input }: SlipContext): SlipRow[] => [
  ...(about.kind === 'person' ? [] : ['personId']),
  ...(about.kind === 'position' && input['positionId'] ? [] : ['positionId']),
];

/** Head, needs and reasons of a transfer; words: `options.elsewhere`, `needs.where`. */
export const transferHead: Pick<
  SlipDeclaration,
  'title' | 'lead' | 'needs' | 'fits' | 'reads' | 'hasBefore'
> = {
  title: ({ named, words }) => named('personId') || words.title,
  lead: ({ named, words }) =>
    words.lead.replace('{{where}}', named('positionId') || (words.options?.['elsewhere'] ?? '')),
  needs: ({ input, words }) => (input['positionId'] ? [] : [words.needs?.['where'] ?? '']),
  fits: listedFor('transfer'),
  reads: ({ positionId }) => ({ positions: [positionId] }),
  hasBefore: true,
};
