import { type ReplyOf, structureEndpoints } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { useUnits } from '../time/time.queries';
import { LoadedRecord } from '../ui/loaded-record';
import { RecordSection } from '../ui/record-section';
import { TableSection } from '../ui/table-section';
import { type Loaded, type RecordContext, RecordSheet, useRecord } from '../ui/record-sheet';
import { useRecordQuery } from '../ui/use-record-query';
import { NotThere } from './not-there';
import { jobWords } from './job-words';
import { positionLineWords } from './position-line-words';
import { PositionLines } from './position-lines';

type LoadedJob = Loaded<ReplyOf<typeof structureEndpoints.jobRecord>>;

/** The record of a job: what it is, its positions and how many hold them. */
export const JobRecord = ({ id }: { id: number }) => (
  <LoadedRecord
    query={useRecordQuery(structureEndpoints.jobRecord, { kind: 'job', id, around: ['position_limits'] })}
    units={useUnits()}
  >
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedJob) => {
  const lineWords = useWords(positionLineWords);
  const words = useWords(jobWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const { id, record, register, nameOf } = loaded;
  const rows = register.rows('job', id);
  const job = register.at('job', id, on);
  const context = useRecord('job', loaded, {
    name: job?.name ?? '',
    ids: { jobId: id, likeId: id },
    states: [job?.pattern ? 'pattern' : job?.active ? 'active' : 'retired'],
  });
  if (!job)
    return <NotThere title={rows[0]?.values.name ?? ''} from={rows[0]?.from} path={pathOf('job', id)} />;
  return (
    <RecordSheet
      context={context}
      head={(acts) => <JobHead {...{ loaded, acts }} />}
      parts={[
        {
          id: 'job',
          label: t('section.job'),
          content: <RecordSection section="job" versions={rows as never} {...context} />,
        },
        {
          id: 'job_requirement',
          label: words.asks,
          content: <JobAsks {...{ loaded, context }} />,
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
      beside={<Chronicle kind="job" {...{ id, record, register, nameOf }} />}
    />
  );
};

const OF_JOB = ['job_requirement', 'job_pay_basis'] as const;

// What whoever does the job must bring, and how it is paid where.
const JobAsks = ({ loaded, context }: { loaded: LoadedJob; context: RecordContext }) => {
  const { id, register } = loaded;
  return (
    <>
      {OF_JOB.map((section) => (
        <TableSection
          key={section}
          section={section}
          versions={register.referrers(section, 'jobId', id) as never}
          owner={id}
          {...context}
        />
      ))}
    </>
  );
};

const JobHead = ({ loaded, acts }: { loaded: LoadedJob; acts: React.ReactNode }) => {
  const words = useWords(jobWords);
  const format = useFormat();
  const { on } = useLens();
  const { id, register, record } = loaded;
  const job = register.at('job', id, on);
  const most = job?.mostPositions ?? null;
  const counts = [
    most === null
      ? words.positions(record.count, format.number(record.count))
      : words.positionsOf(format.number(record.count), format.number(most)),
    words.holders(record.holders, format.number(record.holders)),
    words.free(format.number(record.free)),
  ];
  return (
    <header className="recordhead">
      <div className="title">
        <h1>{job?.name}</h1>
        <span className="soft n">{job?.code}</span>
        {!job?.active && <span className="standing closed">{words.retired}</span>}
        {job?.pattern && <span className="standing planned">{words.pattern}</span>}
      </div>
      <p>
        {counts.join(' · ')}
        {most !== null && record.count >= most && <span className="ochre"> · {words.usedUp}</span>}
      </p>
      {acts}
    </header>
  );
};
