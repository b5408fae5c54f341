import { type ReplyOf, type Values, structureEndpoints } from '@gremium/contract';
import { holderDifferences, hundredths, isOn, markOf, positionState, takesMore } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { useUnits } from '../time/time.queries';
import { LoadedRecord } from '../ui/loaded-record';
import type { MarkName } from '../ui/occupancy-mark';
import { RecordSection, useFacts } from '../ui/record-section';
import { type Loaded, type RecordContext, RecordSheet, useRecord } from '../ui/record-sheet';
import { useRecordQuery } from '../ui/use-record-query';
import { useExcess } from './held-said';
import { NotThere } from './not-there';
import { HolderAxis } from './holder-axis';
import { Holders } from './holders';
import { PositionAsks, PositionBeside, PositionDiffers } from './position-asks';
import { PositionHead } from './position-head';
import { positionWords } from './position-words';
import { fieldsOf } from '../ui/fields';
import { useFieldName } from '../ui/field-name';

export type LoadedPosition = Loaded<ReplyOf<typeof structureEndpoints.positionRecord>>;

/** The record of a position: what it is, who held which share of it when, its limits, what stands below it. */
export const PositionRecord = ({ id }: { id: number }) => (
  <LoadedRecord
    query={useRecordQuery(structureEndpoints.positionRecord, { kind: 'position', id })}
    units={useUnits()}
  >
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedPosition) => {
  const words = useWords(positionWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const { id, record, register, nameOf } = loaded;
  const rows = register.rows('position', id);
  const version = rows.find((row) => isOn(row, on));
  const mark = (markOf(register, id, on) ?? 'closed') as MarkName;
  const isOpen = takesMore(register, id, on);
  const context = useRecord('position', loaded, {
    name: version?.values.title ?? '',
    ids: { positionId: id, likeId: id },
    states: [mark, ...(isOpen ? ['open'] : [])],
  });
  if (!version)
    return (
      <NotThere title={rows[0]?.values.title ?? ''} from={rows[0]?.from} path={pathOf('position', id)} />
    );
  const differs =
    holderDifferences(register, id, on).length > 0 ||
    register
      .referrers('placement', 'positionId', id)
      .some((row) => isOn(row, on) && row.values.reviewOn !== null);
  const label = (name: 'position' | 'position_limits') => t(`section.${name}`);
  return (
    <RecordSheet
      context={context}
      head={(acts) => <PositionHead {...{ loaded, acts, mark, isOpen }} position={version.values} />}
      parts={[
        {
          id: 'holders',
          label: t('position.whoHeld'),
          content: (
            <>
              <HolderAxis {...{ id, register, nameOf }} />
              <Holders {...{ id, register, nameOf }} />
            </>
          ),
        },
        {
          id: 'position_limits',
          label: label('position_limits'),
          content: <Limits {...{ loaded, context }} />,
        },
        differs && { id: 'differs', label: words.differs, content: <PositionDiffers loaded={loaded} /> },
        { id: 'position', label: label('position'), content: <Described {...{ loaded, context }} /> },
        { id: 'asks', label: words.asks, content: <PositionAsks {...{ loaded, context }} /> },
        { id: 'beside', label: words.line, content: <PositionBeside {...{ loaded, context }} /> },
        { id: 'below', label: t('position.below'), content: <Below {...{ loaded, mark }} /> },
      ]}
      beside={<Chronicle kind="position" {...{ id, record, register, nameOf }} />}
    />
  );
};

type PartProps = { loaded: LoadedPosition; context: RecordContext };

const Limits = ({ loaded: { id, register }, context }: PartProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const limits = register.at('position_limits', id, on);
  const limit = (value: number | null | undefined, said: (n: number) => string) =>
    value === undefined ? '–' : value === null ? t('position.noLimit') : said(value);
  return (
    <RecordSection
      section="position_limits"
      versions={register.rows('position_limits', id) as never}
      {...context}
      facts={[
        { label: t('field.places'), value: limit(limits?.places, String) },
        { label: t('field.fte'), value: limit(limits?.fte, format.hundredths) },
        { label: t('position.free'), value: useFreeInWords()(positionState(register, id, on), limits) },
        { label: t('field.handoverDays'), value: limits?.handoverDays },
      ]}
    />
  );
};

const useFreeInWords = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const excess = useExcess();
  return (
    { freePlaces, freeFte, occupancy, held, holders }: ReturnType<typeof positionState>,
    limits: Values<'position_limits'> | undefined,
  ): string => {
    const { places: most = null, fte: limit = null } = limits ?? {};
    if (occupancy === 'over_held')
      return excess({ held: hundredths(held), limit, holders: holders.length, places: most });
    if (freePlaces === null && freeFte === null) return t('position.noLimit');
    const places = freePlaces === null ? '' : t('position.freePlaces', { count: freePlaces });
    const fte =
      freeFte === null ? '' : t('position.freeFte', { fte: format.hundredths(hundredths(freeFte)) });
    return [places, fte].filter(Boolean).join(', ');
  };
};

const KINDS = { locationId: 'location', costCentreId: 'cost_centre', legalEntityId: 'legal_entity' } as const;

const Described = ({ loaded: { id, record, register, nameOf }, context }: PartProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const factsOf = useFacts(context.showing);
  const nameOfField = useFieldName();
  const position = register.at('position', id, on);
  if (!position) return null;
  const seen = new Set(fieldsOf('position').map(({ name }) => name));
  const inherited = (['locationId', 'costCentreId', 'legalEntityId'] as const).map((field) => ({
    field: field as string,
    label: nameOfField('position', field),
    value: nameOf(KINDS[field], record.inherited[field]),
    note: position[field] === null && record.inherited[field] !== null && t('source.unit'),
  }));
  const version = register.rows('position', id).find((row) => isOn(row, on));
  const told = new Set([
    'title',
    'code',
    'standing',
    'unitId',
    'jobId',
    'gradeId',
    'hours',
    ...inherited.map(({ field }) => field),
  ]);
  const rest = factsOf('position', version as never, told);
  const hours = position.hours === null ? t('position.fullTime') : format.hundredths(position.hours);
  return (
    <RecordSection
      section="position"
      versions={register.rows('position', id) as never}
      {...context}
      facts={[
        ...[
          { field: 'jobId', label: nameOfField('position', 'jobId'), value: nameOf('job', position.jobId) },
          {
            field: 'gradeId',
            label: nameOfField('position', 'gradeId'),
            value: nameOf('grade', position.gradeId),
          },
          ...inherited,
          { field: 'hours', label: nameOfField('position', 'hours'), value: hours },
        ].filter(({ field }) => seen.has(field)),
        ...rest,
      ]}
    />
  );
};

const Below = ({ loaded: { record }, mark }: { loaded: LoadedPosition; mark: MarkName }) => {
  const { t } = useTranslation();
  const [manager] = record.managers;
  const said = record.below.map(({ title, count }) => (count > 1 ? `${count} × ${title}` : title));
  return (
    <section className="block">
      <h2>
        {t('position.below')}
        {mark === 'vacant' && manager && record.below.length > 0 && (
          <span className="since">{t('position.bridged', { name: manager.name })}</span>
        )}
      </h2>
      <p>{said.length === 0 ? t('position.nobodyBelow') : said.join(', ')}</p>
    </section>
  );
};
