import type { ReplyOf, structureEndpoints } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { pathOf } from '../frame/record-paths';
import { useFormat } from '../texts/format';
import { Chronicle } from '../time/chronicle';
import { useUnits } from '../time/time.queries';
import { LoadedRecord } from '../ui/loaded-record';
import { RecordSection } from '../ui/record-section';
import { type Loaded, RecordSheet, useRecord } from '../ui/record-sheet';
import { NotThere } from './position-record';
import { PositionLines } from './position-lines';
import { useJobRecord } from './structure.queries';

type LoadedJob = Loaded<ReplyOf<typeof structureEndpoints.jobRecord>>;

/** The record of a job: what it is, its positions and how many hold them. */
export const JobRecord = ({ id }: { id: number }) => (
  <LoadedRecord query={useJobRecord(id)} units={useUnits()}>
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedJob) => {
  const { t } = useTranslation();
  const { on } = useLens();
  const { id, record, register, nameOf } = loaded;
  const context = useRecord('job', loaded);
  const rows = register.rows('job', id);
  const job = register.at('job', id, on);
  if (!job)
    return <NotThere title={rows[0]?.values.name ?? ''} from={rows[0]?.from} path={pathOf('job', id)} />;
  return (
    <RecordSheet
      kind="job"
      id={id}
      edits={context.edits}
      begun={{ name: job.name, ids: { jobId: id }, states: [job.active ? 'active' : 'retired'] }}
      head={(acts) => <JobHead {...{ loaded, acts }} />}
      parts={[
        {
          id: 'job',
          label: t('section.job'),
          content: <RecordSection section="job" versions={rows as never} {...context} />,
        },
        {
          id: 'positions',
          label: t('unit.positions'),
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

const JobHead = ({ loaded, acts }: { loaded: LoadedJob; acts: React.ReactNode }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const { id, register, record } = loaded;
  const job = register.at('job', id, on);
  const most = job?.mostPositions ?? null;
  const counts = [
    most === null
      ? t('job.positions', { count: record.count, shown: format.number(record.count) })
      : t('job.positionsOf', { shown: format.number(record.count), most: format.number(most) }),
    t('job.holders', { count: record.holders, shown: format.number(record.holders) }),
    t('job.free', { count: record.free, shown: format.number(record.free) }),
  ];
  return (
    <header className="recordhead">
      <div className="title">
        <h1>{job?.name}</h1>
        <span className="soft n">{job?.code}</span>
        {!job?.active && <span className="standing closed">{t('job.retired')}</span>}
      </div>
      <p>{counts.join(' · ')}</p>
      {acts}
    </header>
  );
};
