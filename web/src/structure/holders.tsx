import type { Row } from '@gremium/contract';
import { type Register, heldShare, holdings, hundredths, lastDay, personOf, spanOf } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import type { NameOf } from '../time/time.queries';
import { labelIn } from '../ui/field-value';
import { PlainTable } from '../ui/plain-table';

const MOST = 60;

type HoldersProps = { id: number; register: Register; nameOf: NameOf };

/** Who held it, as a table: the same as the axis, in words. */
export const Holders = ({ id, register, nameOf }: HoldersProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const whyEnded = useWhyEnded(register);
  const rows = holdings(register, id).reverse();
  if (rows.length === 0) return null;
  return (
    <section className="block">
      <h2>{t('position.whoHeld')}</h2>
      <PlainTable
        heads={[
          { label: t('position.holder') },
          { label: t('position.share'), isNumber: true },
          { label: t('position.firstDay') },
          { label: t('position.lastDay') },
          { label: t('position.whyEnded') },
        ]}
        rows={rows.slice(0, MOST).map((row) => {
          const last = lastDay(row);
          return {
            key: row.id,
            cells: [
              <Holder key="holder" {...{ row, register, nameOf }} />,
              format.hundredths(hundredths(heldShare(row.values))),
              format.day(row.from),
              last ? format.day(last) : '–',
              whyEnded(row),
            ],
          };
        })}
      />
    </section>
  );
};

type HolderProps = Omit<HoldersProps, 'id'> & { row: Row<'placement'> };

const Holder = ({ row, register, nameOf }: HolderProps) => {
  const { t } = useTranslation();
  const to = useTo();
  const person = personOf(register, row.values, row.from);
  const name = person === undefined ? '' : nameOf('person', person);
  return (
    <span className="serif">
      {name && person ? <Link to={to(pathOf('person', person))}>{name}</Link> : t('problem.record_hidden')}
      {row.values.kind !== 'primary' && (
        <span className="soft"> {t(`choice.${row.values.kind as keyof Texts['choice']}`)}</span>
      )}
    </span>
  );
};

const useWhyEnded = (register: Register) => {
  const { t, i18n } = useTranslation();
  return ({ until, values }: Row<'placement'>): string => {
    const employment = register.rows('employment', values.employmentId);
    if (until === 'infinity') return '';
    if (spanOf(employment)?.until !== until) return t('position.moved');
    return (
      labelIn(register, employment.at(-1)?.values.endReasonId ?? null, i18n.language) || t('position.left')
    );
  };
};
