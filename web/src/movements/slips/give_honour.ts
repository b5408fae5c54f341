import { type SlipContext, slip } from '../slip-declared';

const asksOf = ({ input, showing, day }: SlipContext) => {
  const id = input['honourId'];
  if (typeof id !== 'number') return undefined;
  return (
    showing.register.at('list_entry', id, day as never) ??
    showing.register.rows('list_entry', id).at(-1)?.values
  )?.flags;
};

const isAlone = ({ input }: SlipContext): boolean =>
  (input['personIds'] as number[] | undefined)?.length === 1;

/** An honour for one person, or by one order for many. */
export const declared = slip('give_honour', {
  en: {
    submit: 'Record honour',
    title: 'Honour',
    lead: 'of one person, or of many by one order; whoever may not have it is named and left out',
    more: 'Issuer, country, kind of order, valid until, notes',
    fields: {
      personIds: 'Whom',
      issuer: 'Issued by',
      expiresOn: 'Valid until',
      evidence: 'Document',
      reason: 'A word for the journal',
    },
    notes: { ordinal: 'left out: the next one by its date' },
    needs: { asked: 'what this honour asks for' },
  },
  de: {
    submit: 'Ehrung erfassen',
    title: 'Ehrung',
    lead: 'einer Person, oder durch eine Anordnung für viele; wer sie nicht erhalten kann, wird genannt und bleibt ausgenommen',
    more: 'Aussteller, Land, Art der Anordnung, gültig bis, Anmerkungen',
    fields: {
      personIds: 'Wem',
      issuer: 'Ausgestellt von',
      expiresOn: 'Gültig bis',
      evidence: 'Dokument',
      reason: 'Ein Wort für das Journal',
    },
    notes: { ordinal: 'leer: die nächste nach dem Datum' },
    needs: { asked: 'was diese Ehrung verlangt' },
  },
  title: ({ input, named, words, format }) => {
    const ids = (input['personIds'] as number[] | undefined) ?? [];
    return (
      named('personIds') || (ids.length > 0 ? `${words.title}: ${format.number(ids.length)}` : words.title)
    );
  },
  lead: ({ words }) => words.lead,
  rows: (context) => {
    const flags = asksOf(context);
    const asks = flags?.asks ?? [];
    const isNumbered = asks.includes('ordinal') && isAlone(context);
    return [
      'personIds',
      'honourId',
      isNumbered ? ['awardedOn', 'ordinal'] : 'awardedOn',
      ['orderNumber', 'orderedOn'],
      'evidence',
      ...(asks.includes('country') ? ['country' as const] : []),
      ...(asks.includes('issuer') ? ['issuer' as const] : []),
      ...(asks.includes('expiresOn') ? ['expiresOn' as const] : []),
    ];
  },
  more: (context) => {
    const asks = asksOf(context)?.asks ?? [];
    return [
      ...(['issuer', 'country', 'expiresOn'] as const).filter((name) => !asks.includes(name)),
      'orderKind',
      'notes',
      'reason',
    ];
  },
  alike: ({ about, input }) => {
    const { personIds, awardedOn } = input;
    return { about, input: { personIds, awardedOn } };
  },
});
