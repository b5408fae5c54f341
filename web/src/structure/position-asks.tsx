import type { Row } from '@gremium/contract';
import { type AskedOf, holderDifferences, personOf, requirementsOf } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { useExpirySaid } from '../ui/expiry';
import { PlainTable } from '../ui/plain-table';
import type { RecordContext } from '../ui/record-sheet';
import { TableSection } from '../ui/table-section';
import type { LoadedPosition } from './position-record';
import { positionWords } from './position-words';
import { useRequirementSaid } from './requirement-said';

type PartProps = { loaded: LoadedPosition; context: RecordContext };

/** What a position asks: by its job and of its own, without what follows from another; its own are changed in their place. */
export const PositionAsks = ({ loaded, context }: PartProps) => {
  const words = useWords(positionWords);
  const { on } = useLens();
  const { id, register } = loaded;
  const asked = requirementsOf(register, id, on);
  return (
    <>
      <section className="block">
        <h2>{words.asks}</h2>
        {asked.length === 0 ? (
          <p className="soft">{words.nothingAsked}</p>
        ) : (
          <Asked of={asked} {...{ loaded }} />
        )}
      </section>
      <TableSection
        section="position_requirement"
        versions={register.referrers('position_requirement', 'positionId', id) as never}
        owner={id}
        {...context}
      />
    </>
  );
};

const Asked = ({ of, loaded: { register, record } }: { of: readonly AskedOf[]; loaded: LoadedPosition }) => {
  const words = useWords(positionWords);
  const { t } = useTranslation();
  const said = useRequirementSaid(register);
  const isKnown = record.qualified.length > 0;
  return (
    <PlainTable
      heads={[
        { label: words.what },
        { label: words.needed },
        { label: words.who },
        ...(isKnown ? [{ label: words.brought }] : []),
      ]}
      rows={of.map((one) => ({
        key: one.row.id,
        cells: [
          said(one),
          t(`choice.${one.row.values.needed}`),
          one.by === 'job' ? words.byJob : words.own,
          ...(isKnown ? [<Brought key="by" {...{ one, record }} />] : []),
        ],
      }))}
    />
  );
};

const MOST_NAMED = 6;

// Who lacks what is asked, or will soon; where nobody does, that all meet it.
const Brought = ({ one, record }: { one: AskedOf; record: LoadedPosition['record'] }) => {
  const words = useWords(positionWords);
  const format = useFormat();
  const to = useTo();
  const expiry = useExpirySaid();
  const holders = record.qualified.filter(({ requirement }) => requirement === one.row.id);
  const open = holders.filter(({ state }) => state !== 'met');
  if (open.length === 0) return <>{words.allMeet(holders.length)}</>;
  return (
    <>
      {open.slice(0, MOST_NAMED).map(({ personId, name, state, until }) => (
        <div key={personId} className={state === 'missing' ? 'wrong' : 'ochre'}>
          <Link to={to(pathOf('person', personId))}>
            {state === 'missing' || !until ? words.missing(name) : `${name}: ${expiry(until).text}`}
          </Link>
        </div>
      ))}
      {open.length > MOST_NAMED && <div className="soft">+ {format.number(open.length - MOST_NAMED)}</div>}
    </>
  );
};

/** Other positions it reports to beside its line, and how it was evaluated. */
export const PositionBeside = ({ loaded, context }: PartProps) => {
  const { id, register } = loaded;
  return (
    <>
      {(['dotted_line', 'position_evaluation'] as const).map((section) => (
        <TableSection
          key={section}
          section={section}
          versions={register.referrers(section, 'positionId', id) as never}
          owner={id}
          {...context}
        />
      ))}
    </>
  );
};

/** Holders whose hours or cost centre are others than the position says, and those above its limit by right. */
export const PositionDiffers = ({ loaded }: { loaded: LoadedPosition }) => {
  const words = useWords(positionWords);
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const { id, register, nameOf } = loaded;
  const differing = holderDifferences(register, id, on);
  const above = register
    .referrers('placement', 'positionId', id)
    .filter((row) => row.from <= on && on < row.until && row.values.reviewOn !== null);
  const shown = (field: 'hours' | 'costCentreId', value: number | null) =>
    value === null ? '–' : field === 'hours' ? format.hundredths(value) : nameOf('cost_centre', value);
  return (
    <>
      {differing.length > 0 && (
        <section className="block" id="section-differs">
          <h2>{words.differs}</h2>
          <PlainTable
            heads={[
              { label: words.holder },
              { label: t('edit.field') },
              { label: words.has },
              { label: words.says },
            ]}
            rows={differing.map(({ placement, field, holder, position }) => ({
              key: `${placement.id} ${field}`,
              cells: [
                <Holder key="who" {...{ loaded, row: placement }} />,
                t(`field.${field}`),
                shown(field, holder),
                shown(field, position),
              ],
            }))}
          />
        </section>
      )}
      {above.length > 0 && (
        <section className="block" id="section-above">
          <h2>{words.above}</h2>
          <PlainTable
            heads={[{ label: words.holder }, { label: words.because }, { label: words.reviewOn }]}
            rows={above.map((row) => ({
              key: row.id,
              cells: [
                <Holder key="who" {...{ loaded, row }} />,
                row.values.aboveReason,
                format.day(row.values.reviewOn as string),
              ],
            }))}
          />
        </section>
      )}
    </>
  );
};

const Holder = ({ loaded: { register, nameOf }, row }: { loaded: LoadedPosition; row: Row<'placement'> }) => {
  const { t } = useTranslation();
  const to = useTo();
  const person = personOf(register, row.values, row.from);
  const name = person === undefined ? '' : nameOf('person', person);
  return name ? <Link to={to(pathOf('person', person ?? 0))}>{name}</Link> : t('notSeen');
};
