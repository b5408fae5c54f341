import { type Qualified, qualifiedFor } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useRequirementSaid } from '../structure/requirement-said';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { useExpirySaid } from '../ui/expiry';
import { PlainTable } from '../ui/plain-table';
import type { LoadedPerson } from './person-record';

/** The sections without any of which it cannot be said whether somebody meets what is asked. */
export const QUALIFYING = [
  'held_certificate',
  'held_skill',
  'held_education',
  'job_requirement',
  'position_requirement',
  'position',
] as const;

export const qualifiedWords = {
  en: {
    head: 'Asked for',
    what: 'What the position asks for',
    needed: 'Needed',
    brought: 'Brought',
    met: 'yes',
    until: (day: string) => `until ${day}`,
    missing: 'missing',
  },
  de: {
    head: 'Verlangt',
    what: 'Was die Planstelle verlangt',
    needed: 'Nötig',
    brought: 'Vorhanden',
    met: 'ja',
    until: (day: string) => `bis ${day}`,
    missing: 'fehlt',
  },
};

type Props = { loaded: LoadedPerson; positionId: number };

/** What somebody's position asks for on the day looked at, and whether they bring it. */
export const QualifiedPart = ({ loaded: { id, register }, positionId }: Props) => {
  const words = useWords(qualifiedWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const format = useFormat();
  const expiry = useExpirySaid();
  const said = useRequirementSaid(register);
  const asked = qualifiedFor(register, id, positionId, on);
  if (asked.length === 0) return null;
  const state = ({ state: is, until, row }: Qualified) => {
    if (is === 'missing')
      return <span className={row.values.needed === 'required' ? 'wrong' : 'soft'}>{words.missing}</span>;
    if (is === 'runs_out' && until) return <span className="ochre">{expiry(until).text}</span>;
    return (
      <span>
        {words.met}
        {until !== null && <span className="soft"> {words.until(format.day(until))}</span>}
      </span>
    );
  };
  return (
    <section className="block">
      <h2>{words.head}</h2>
      <PlainTable
        heads={[{ label: words.what }, { label: words.needed }, { label: words.brought }]}
        rows={asked.map((one) => ({
          key: one.row.id,
          cells: [said(one), t(`choice.${one.row.values.needed}`), state(one)],
        }))}
      />
    </section>
  );
};
