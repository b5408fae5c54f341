import { type ReplyOf, structureEndpoints } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useWords } from '../texts/words';
import { Chronicle } from '../time/chronicle';
import { LoadedRecord } from '../ui/loaded-record';
import { RecordSection } from '../ui/record-section';
import { type Loaded, RecordSheet, useRecord } from '../ui/record-sheet';
import { useRecordQuery } from '../ui/use-record-query';
import { ExchangeRates } from './exchange-rates';
import { LogoLine } from './logo-line';
import { Holidays } from './holidays';
import { organisationWords } from './organisation-words';

type LoadedOrganisation = Loaded<ReplyOf<typeof structureEndpoints.organisationRecord>>;

/** The record of the organisation: its settings, holidays, exchange rates. */
export const OrganisationRecord = ({ id }: { id: number }) => (
  <LoadedRecord
    query={useRecordQuery(structureEndpoints.organisationRecord, {
      kind: 'organisation',
      id,
      around: ['holiday', 'exchange_rate', 'location'],
    })}
  >
    {(loaded) => <Sheet id={id} {...loaded} />}
  </LoadedRecord>
);

const Sheet = (loaded: LoadedOrganisation) => {
  const words = useWords(organisationWords);
  const { t } = useTranslation();
  const may = useMay();
  const { on } = useLens();
  const { id, record, register, nameOf } = loaded;
  const values = register.at('organisation', id, on);
  const context = useRecord('organisation', loaded, {
    name: values?.name ?? '',
    ids: { organisationId: id },
    states: [],
  });
  return (
    <RecordSheet
      context={context}
      head={(acts) => (
        <header className="recordhead">
          <h1>{values?.name}</h1>
          {acts}
        </header>
      )}
      parts={[
        {
          id: 'organisation',
          label: t('section.organisation'),
          content: (
            <RecordSection
              section="organisation"
              versions={register.rows('organisation', id) as never}
              {...context}
            />
          ),
        },
        { id: 'logo', label: words.logo, content: <LogoLine /> },
        may.view('holiday') && {
          id: 'holiday',
          label: words.holidays,
          content: <Holidays register={register} workingDays={values?.workingDays ?? null} />,
        },
        may.view('exchange_rate') && {
          id: 'exchange_rate',
          label: words.rates,
          content: <ExchangeRates register={register} currency={values?.currency ?? ''} />,
        },
      ]}
      beside={<Chronicle kind="organisation" {...{ id, record, register, nameOf }} />}
    />
  );
};
