import { type OutsideLine, type ReplyOf, structureEndpoints } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { useUnits } from '../time/time.queries';
import { LoadedRecord } from '../ui/loaded-record';
import { PlainTable } from '../ui/plain-table';
import { RecordSection, type Version } from '../ui/record-section';
import { type Loaded, type RecordContext, RecordSheet, useRecord } from '../ui/record-sheet';
import { TableSection } from '../ui/table-section';
import { useRecordQuery } from '../ui/use-record-query';
import { gradeWords } from './grade-words';
import { NotThere } from './not-there';
import { positionLineWords } from './position-line-words';
import { PositionLines } from './position-lines';

type LoadedGrade = Loaded<ReplyOf<typeof structureEndpoints.gradeRecord>>;

/** The record of a grade: its ranges and steps, who is paid outside of them, its positions. */
export const GradeRecord = ({ id }: { id: number }) => (
  <LoadedRecord
    query={useRecordQuery(structureEndpoints.gradeRecord, {
      kind: 'grade',
      id,
      around: ['position', 'position_limits', 'placement', 'pay'],
    })}
    units={useUnits()}
  >
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const byStep = (a: Version, b: Version): number =>
  Number(a.values['step']) - Number(b.values['step']) ||
  String(a.values['currency'] ?? '').localeCompare(String(b.values['currency'] ?? ''));
const byCurrency = (a: Version, b: Version): number =>
  String(a.values['currency']).localeCompare(String(b.values['currency']));

const RANGES = [
  { section: 'grade_range', order: byCurrency },
  { section: 'grade_step', order: byStep },
  { section: 'grade_step_pay', order: byStep },
] as const;

const Sheet = (loaded: LoadedGrade) => {
  const words = useWords(gradeWords);
  const lineWords = useWords(positionLineWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const { id, record, register, nameOf } = loaded;
  const rows = register.rows('grade', id);
  const grade = register.at('grade', id, on);
  const context = useRecord('grade', loaded, { name: grade?.name ?? '', ids: {}, states: [] });
  if (!grade)
    return <NotThere title={rows[0]?.values.name ?? ''} from={rows[0]?.from} path={pathOf('grade', id)} />;
  return (
    <RecordSheet
      context={context}
      head={(acts) => <GradeHead {...{ loaded, acts }} />}
      parts={[
        ...RANGES.map(({ section, order }) => ({
          id: section,
          label: t(`section.${section}`),
          content: <Rows {...{ loaded, context, section, order }} />,
        })),
        { id: 'outside', label: words.outside, content: <Outside of={record} /> },
        {
          id: 'grade',
          label: t('section.grade'),
          content: <RecordSection section="grade" versions={rows as never} {...context} />,
        },
        {
          id: 'positions',
          label: lineWords.positions,
          content: (
            <PositionLines
              lines={record.positions}
              count={record.count}
              unitOf={(unit) => nameOf('unit', unit)}
            />
          ),
        },
      ]}
      beside={<Chronicle kind="grade" {...{ id, record, register, nameOf }} />}
    />
  );
};

type RowsProps = { loaded: LoadedGrade; context: RecordContext } & (typeof RANGES)[number];

const Rows = ({ loaded: { id, register }, context, section, order }: RowsProps) => (
  <TableSection
    section={section}
    versions={register.referrers(section, 'gradeId', id) as never}
    owner={id}
    order={order}
    {...context}
  />
);

const Outside = ({
  of: { outside, outsideCount },
}: {
  of: { outside: OutsideLine[]; outsideCount: number };
}) => {
  const words = useWords(gradeWords);
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const may = useMay();
  if (!may.view('pay')) return null;
  return (
    <section className="block">
      <h2>
        {words.outside}
        {outsideCount > outside.length && (
          <span className="since">
            {words.outsideSome(format.number(outsideCount), format.number(outside.length))}
          </span>
        )}
      </h2>
      {outside.length === 0 ? (
        <p className="soft">{words.outsideNone}</p>
      ) : (
        <PlainTable
          heads={[
            { label: words.who },
            { label: t('field.positionId') },
            { label: words.pay, isNumber: true },
            { label: words.compaRatio, isNumber: true },
          ]}
          rows={outside.map((line) => ({
            key: `${line.personId} ${line.positionId}`,
            cells: [
              <Link key="who" to={to(pathOf('person', line.personId))}>
                {line.name}
              </Link>,
              <Link key="where" to={to(pathOf('position', line.positionId))}>
                {line.title}
              </Link>,
              `${format.amount(line.amount)} ${line.currency}`,
              line.compaRatio === null ? '–' : format.hundredths(line.compaRatio),
            ],
          }))}
        />
      )}
    </section>
  );
};

const GradeHead = ({ loaded, acts }: { loaded: LoadedGrade; acts: React.ReactNode }) => {
  const words = useWords(gradeWords);
  const format = useFormat();
  const to = useTo();
  const may = useMay();
  const { on } = useLens();
  const { id, register, record } = loaded;
  const grade = register.at('grade', id, on);
  const counts = [
    words.steps(grade?.steps ?? 0),
    words.positions(record.count, format.number(record.count)),
    words.holders(record.holders, format.number(record.holders)),
    ...(record.outsideCount > 0
      ? [words.outsideCount(record.outsideCount, format.number(record.outsideCount))]
      : []),
  ];
  return (
    <header className="recordhead">
      <div className="title">
        <h1>{grade?.name}</h1>
        <span className="soft n">{grade?.code}</span>
      </div>
      <p>
        {grade && words.level(grade.level)} · {counts.join(' · ')}
      </p>
      {may.view('pay') && (
        <p>
          <Link to={to('/structure/steps', { grade: String(id) })}>{words.toSteps}</Link>
        </p>
      )}
      {acts}
    </header>
  );
};
