import { type FiguresOut, type ReplyOf, structureEndpoints } from '@gremium/contract';
import { marksInOrder } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link, type To } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { useUnits } from '../time/time.queries';
import { LoadedRecord } from '../ui/loaded-record';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { PlainTable } from '../ui/plain-table';
import { RecordSection } from '../ui/record-section';
import { type Loaded, RecordSheet, useRecord } from '../ui/record-sheet';
import { useRecordQuery } from '../ui/use-record-query';
import { NotThere } from './not-there';
import { PositionLines } from './position-lines';
import { useScopeSaid } from './scope-said';
import { unitWords } from './unit-words';
import { positionLineWords } from './position-line-words';

type LoadedUnit = Loaded<ReplyOf<typeof structureEndpoints.unitRecord>>;

/** The record of a unit: figures, members, positions, units below, and what can be begun in it. */
export const UnitRecord = ({ id }: { id: number }) => (
  <LoadedRecord
    query={useRecordQuery(structureEndpoints.unitRecord, {
      kind: 'unit',
      id,
      around: ['position_limits', 'pay'],
    })}
    units={useUnits()}
  >
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedUnit) => {
  const lineWords = useWords(positionLineWords);
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const to = useTo();
  const { id, record, register, nameOf } = loaded;
  const rows = register.rows('unit', id);
  const unit = register.at('unit', id, on);
  const context = useRecord('unit', loaded, {
    name: unit?.name ?? '',
    ids: { unitId: id, parentId: id },
    states: [],
  });
  if (!unit) {
    const into = rows.at(-1)?.values.successorId;
    const title = rows[0]?.values.name ?? '';
    return (
      <NotThere title={title} from={rows[0]?.from} path={pathOf('unit', id)}>
        {into && (
          <p>
            {words.mergedInto} <Link to={to(pathOf('unit', into))}>{nameOf('unit', into)}</Link>
          </p>
        )}
      </NotThere>
    );
  }
  return (
    <RecordSheet
      context={context}
      head={(acts) => <UnitHead {...{ loaded, acts }} />}
      parts={[
        {
          id: 'figures',
          label: words.figures,
          content: <UnitFigures id={id} own={record.own} branch={record.branch} />,
        },
        { id: 'positions', label: lineWords.positions, content: <PositionLines lines={record.positions} /> },
        { id: 'members', label: words.members, content: <Members of={record.members} /> },
        { id: 'below', label: words.below, content: <Below of={record.below} /> },
        {
          id: 'unit',
          label: t('section.unit'),
          content: <RecordSection section="unit" versions={rows as never} {...context} />,
        },
        register.rows('unit_hiring', id).length > 0 && {
          id: 'unit_hiring',
          label: t('section.unit_hiring'),
          content: (
            <RecordSection
              section="unit_hiring"
              versions={register.rows('unit_hiring', id) as never}
              {...context}
            />
          ),
        },
      ]}
      beside={<Chronicle kind="unit" {...{ id, record, register, nameOf }} />}
    />
  );
};

const UnitHead = ({ loaded, acts }: { loaded: LoadedUnit; acts: React.ReactNode }) => {
  const words = useWords(unitWords);
  const { on } = useLens();
  const to = useTo();
  const { id, register, record, nameOf } = loaded;
  const unit = register.at('unit', id, on);
  const { head, path } = record;
  return (
    <header className="recordhead">
      <p className="soft">
        {path.map((above, i) => (
          <span key={above.id}>
            {i > 0 && ' › '}
            <Link to={to(pathOf('unit', above.id))}>{above.name}</Link>
          </span>
        ))}
      </p>
      <div className="title">
        <h1>{unit?.name}</h1>
        <span className="soft n">{unit?.code}</span>
      </div>
      <p>
        {head?.name && head.personId ? (
          <>
            {head.state === 'bridged' ? words.bridged : words.ledBy}{' '}
            <Link className="serif" to={to(pathOf('person', head.personId))}>
              {head.name}
            </Link>
          </>
        ) : (
          words.noHead
        )}
        {' · '}
        {record.hiresNeedPosition ? words.needsPosition : words.byJob}
      </p>
      {unit && unit.predecessorId !== null && (
        <p className="soft">
          {words.splitOff}{' '}
          <Link to={to(pathOf('unit', unit.predecessorId))}>{nameOf('unit', unit.predecessorId)}</Link>
        </p>
      )}
      {acts}
    </header>
  );
};

const Members = ({ of }: { of: LoadedUnit['record']['members'] }) => {
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  return (
    <section className="block">
      <h2>
        {words.members}
        <span className="since">{words.people(of.length)}</span>
      </h2>
      {of.length === 0 ? (
        <p className="soft">{words.nobody}</p>
      ) : (
        <PlainTable
          heads={[
            { label: t('section.person') },
            { label: t('field.positionId') },
            { label: t('position.share'), isNumber: true },
            { label: t('position.firstDay') },
          ]}
          rows={of.map(({ personId, name, positionId, title, share, since }) => ({
            key: `${personId} ${positionId}`,
            cells: [
              <Link key="name" className="serif" to={to(pathOf('person', personId))}>
                {name}
              </Link>,
              <Link key="title" to={to(pathOf('position', positionId))}>
                {title}
              </Link>,
              format.hundredths(share),
              format.day(since),
            ],
          }))}
        />
      )}
    </section>
  );
};

const Below = ({ of }: { of: LoadedUnit['record']['below'] }) => {
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  return (
    <section className="block">
      <h2>{words.below}</h2>
      {of.length === 0 ? (
        <p className="soft">{words.noneBelow}</p>
      ) : (
        <PlainTable
          heads={[
            { label: t('outline.unit') },
            { label: t('outline.people'), isNumber: true },
            { label: t('outline.fte'), isNumber: true },
            { label: t('outline.freeFte'), isNumber: true },
            { label: t('outline.hireFte'), isNumber: true },
          ]}
          rows={of.map(({ id, name, figures }) => ({
            key: id,
            cells: [
              <Link key="name" className="serif" to={to(pathOf('unit', id))}>
                {name}
              </Link>,
              format.number(figures.people),
              format.hundredths(figures.fte),
              figures.freeFte > 0 ? format.hundredths(figures.freeFte) : '–',
              figures.hireFte > 0 ? format.hundredths(figures.hireFte) : '–',
            ],
          }))}
        />
      )}
    </section>
  );
};

type FiguresProps = { id: number; own: FiguresOut | null; branch: FiguresOut | null };

/** Figures of a unit itself and of its whole branch, on the day looked at. */
const UnitFigures = ({ id, own, branch }: FiguresProps) => {
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  const to = useTo();
  const scopeOf = useScopeSaid();
  const whole = branch ?? own;
  const peopleOf = (key: string) =>
    to('/people', { in: String(id), status: 'counted', itself: key === 'own' ? 'yes' : null });
  const lines = [
    { key: 'own', label: words.itself, of: own },
    { key: 'branch', label: words.branch, of: branch },
  ];
  return (
    <section className="block">
      <h2>
        {words.figures}
        {!isToday && <span className="since indigo">{t('filter.on', { day: format.day(on) })}</span>}
      </h2>
      <PlainTable
        heads={[
          { label: '' },
          { label: t('outline.people'), isNumber: true },
          { label: t('outline.fte'), isNumber: true },
          { label: t('outline.positions') },
          { label: t('outline.freeFte'), isNumber: true },
          { label: t('outline.hireFte'), isNumber: true },
          { label: t('outline.span'), isNumber: true },
        ]}
        rows={lines.flatMap(({ key, label, of }) =>
          of ? { key, cells: [label, ...cellsOf(of, format, peopleOf(key))] } : [],
        )}
      />
      {whole && <p className="soft">{scopeOf(whole)}</p>}
    </section>
  );
};

const cellsOf = (of: FiguresOut, format: ReturnType<typeof useFormat>, people: To): React.ReactNode[] => [
  of.people > 0 ? (
    <Link key="people" to={people}>
      {format.number(of.people)}
    </Link>
  ) : (
    0
  ),
  format.hundredths(of.fte),
  <Marks key="marks" marks={of.marks} />,
  of.freeFte > 0 ? format.hundredths(of.freeFte) : '–',
  of.hireFte > 0 ? format.hundredths(of.hireFte) : '–',
  of.span === null ? '–' : format.hundredths(Math.round(of.span * 100)),
];

const Marks = ({ marks }: { marks: FiguresOut['marks'] }) => (
  <span className="markcounts">
    {marksInOrder
      .filter((mark) => (marks[mark] ?? 0) > 0)
      .map((mark) => (
        <span key={mark}>
          <OccupancyMark mark={mark as MarkName} /> {marks[mark]}
        </span>
      ))}
  </span>
);
