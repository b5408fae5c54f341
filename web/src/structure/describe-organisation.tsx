import type { Day } from '@gremium/contract';
import { yearDays, yearOf } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useMay, useSession } from '../frame/session';
import { useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { refreshTouched } from '../time/touched';
import { makeThing } from '../time/write-record';
import { ThingInputs, type TypedThing, isThingReady, readThing, useTypedThing } from '../ui/thing-inputs';
import { EntryFrame } from './entry-frame';
import { organisationWords } from './organisation-words';

// What is usual, to be looked at: the zone of whoever sets up, weeks from Monday, 40 hours, figures from this year on.
const usual = (today: Day): TypedThing => ({
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  languages: ['en', 'de'],
  dateFormat: 'D MMM YYYY',
  fiscalMonth: 1,
  weekStart: 1,
  workingDays: ['mon', 'tue', 'wed', 'thu', 'fri'],
  fullTime: 4000,
  figuresFrom: yearDays(yearOf(today)).first,
});

/** A register that begins: what it is of. */
export const DescribeOrganisation = () => {
  const words = useWords(organisationWords);
  const reading = useReading();
  const may = useMay();
  const { today } = useSession();
  const queries = useQueryClient();
  const [typed, set] = useTypedThing(() => usual(today));
  const describe = useMutation({
    mutationFn: () => makeThing('organisation', readThing('organisation', typed, reading), null),
    onSuccess: ({ touched }) => refreshTouched(queries, touched),
  });
  if (!may.edit('organisation')) return null;
  return (
    <main className="record">
      <header className="recordhead">
        <h1>{words.describe}</h1>
      </header>
      <EntryFrame
        lead={words.describeLead}
        submit={words.submitDescribe}
        isReady={isThingReady('organisation', typed)}
        isBusy={describe.isPending}
        error={describe.error}
        onSubmit={() => describe.mutate()}
      >
        <div className="entryfields">
          <ThingInputs section="organisation" {...{ typed, set }} />
        </div>
      </EntryFrame>
    </main>
  );
};
