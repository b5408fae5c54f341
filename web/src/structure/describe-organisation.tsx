import { type Bound, type Day, recordEndpoints } from '@gremium/contract';
import { BEGINNING, startOfMonth } from '@gremium/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api';
import { useMay, useSession } from '../frame/session';
import { useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { refreshTouched } from '../time/touched';
import { ThingInputs, type TypedThing, isThingReady, readThing } from '../ui/thing-inputs';
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
  figuresFrom: `${startOfMonth(today).slice(0, 4)}-01-01`,
});

/** A register that begins: what it is of. */
export const DescribeOrganisation = () => {
  const words = useWords(organisationWords);
  const reading = useReading();
  const may = useMay();
  const { today } = useSession();
  const queries = useQueryClient();
  const [typed, setTyped] = useState(() => usual(today));
  const describe = useMutation({
    mutationFn: () =>
      call(recordEndpoints.createRecord, {
        params: { kind: 'organisation' },
        body: {
          from: BEGINNING,
          until: 'infinity' as Bound,
          sections: { organisation: readThing('organisation', typed, reading) },
          preview: false,
          words: {},
        },
      }),
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
          <ThingInputs
            section="organisation"
            typed={typed}
            set={(name) => (value) => setTyped((before) => ({ ...before, [name]: value }))}
          />
        </div>
      </EntryFrame>
    </main>
  );
};
