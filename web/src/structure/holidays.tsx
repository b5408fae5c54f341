import type { Holiday, Organisation } from '@gremium/contract';
import { type Register, byDay, copiedHolidays, isWorkingDay, weekdayOf, yearOf } from '@gremium/core';
import { Button } from 'antd';
import { useState } from 'react';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { type Said, SaidLine } from '../time/said-line';
import { EntryField } from '../ui/entry-field';
import { Choice } from '../ui/field-input';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { ThingInputs, isThingReady, useTypedThing } from '../ui/thing-inputs';
import { useCalendarActs, useReadCalendar } from './calendar-acts';
import { EntryFrame } from './entry-frame';
import { organisationWords } from './organisation-words';
import { type Proposal, ProposedDays } from './proposed-days';

type HolidaysProps = { register: Register; workingDays: Organisation['workingDays'] };
type Open = 'add' | 'copy' | 'file' | null;

/** The public holidays of a year by location: typed, copied from the year before, read from a calendar file. */
export const Holidays = ({ register, workingDays }: HolidaysProps) => {
  const words = useWords(organisationWords);
  const format = useFormat();
  const may = useMay();
  const { on } = useLens();
  const [year, setYear] = useState(() => yearOf(on));
  const [open, setOpen] = useState<Open>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const acts = useCalendarActs((what) => {
    setSaid(what);
    setOpen(null);
  });
  const all = [...register.all('holiday')];
  const shown = all
    .filter(({ values }) => yearOf(values.day) === year)
    .sort((a, b) => byDay(a.values, b.values));
  const placeOf = (id: number | null): string =>
    id === null ? words.everywhere : (register.rows('location', id).at(-1)?.values.name ?? '');
  const turn = (to: Open) => () => {
    setSaid(null);
    setOpen(open === to ? null : to);
  };
  const mayEdit = may.edit('holiday') && may.act('create');
  return (
    <section className="block" id="section-holiday">
      <h2>
        {words.holidays}
        <span className="since">
          <button
            type="button"
            className="textact"
            aria-label={words.before}
            onClick={() => setYear(year - 1)}
          >
            ‹
          </button>{' '}
          <span className="n">{year}</span>{' '}
          <button
            type="button"
            className="textact"
            aria-label={words.after}
            onClick={() => setYear(year + 1)}
          >
            ›
          </button>
        </span>
      </h2>
      {said && <SaidLine {...said} />}
      <Problems of={acts.remove.error} />
      {shown.length === 0 ? (
        <p className="soft">{words.noHolidays(year)}</p>
      ) : (
        <PlainTable
          heads={[
            { label: words.dayHead },
            { label: words.nameHead },
            { label: words.whereHead },
            { label: '' },
          ]}
          rows={shown.map(({ id, thing, values }) => ({
            key: thing,
            cells: [
              <span key="day" className="nowrap">
                {format.day(values.day)}{' '}
                <span className="soft">{format.named('weekday', weekdayOf(values.day), 'short')}</span>
              </span>,
              <span key="name">
                {values.name}
                {!isWorkingDay(workingDays, values.day) && <span className="soft"> · {words.weekend}</span>}
              </span>,
              placeOf(values.locationId),
              may.edit('holiday') && may.act('mend') && (
                <button
                  key="remove"
                  type="button"
                  className="textact nowrap"
                  aria-label={words.removeOf(values.name, format.day(values.day))}
                  onClick={() => acts.remove.mutate({ id: thing, row: id, said: words.removed(values.name) })}
                >
                  {words.remove}
                </button>
              ),
            ],
          }))}
        />
      )}
      {mayEdit && (
        <p className="rowacts">
          <Button onClick={turn('add')}>{words.addHoliday}</Button>
          <Button onClick={turn('copy')}>{words.copyYear(year - 1)}</Button>
          <Button onClick={turn('file')}>{words.fromFile}</Button>
        </p>
      )}
      {open === 'add' && (
        <AddHoliday
          error={acts.record.error}
          isBusy={acts.record.isPending}
          onLeave={() => setOpen(null)}
          onSave={(one) => {
            setYear(yearOf(one.day));
            acts.record.mutate({ holidays: [one], say: words.recorded });
          }}
        />
      )}
      {open === 'copy' && (
        <ProposedDays
          key={`copy ${year}`}
          proposals={copiedHolidays(
            all.map(({ values }) => values),
            year,
          ).map(({ before, ...one }) => ({
            ...one,
            isTaken: before !== 'moved',
            note: before === 'same' ? null : words.stood[before],
          }))}
          none={words.nothingToCopy(year - 1)}
          {...{ placeOf, acts }}
          onLeave={() => setOpen(null)}
        />
      )}
      {open === 'file' && (
        <FromFile key={`file ${year}`} {...{ year, register, placeOf, acts }} onLeave={() => setOpen(null)} />
      )}
    </section>
  );
};

type AddProps = { error: Error | null; isBusy: boolean; onSave: (one: Holiday) => void; onLeave: () => void };

const AddHoliday = ({ error, isBusy, onSave, onLeave }: AddProps) => {
  const words = useWords(organisationWords);
  const [typed, set] = useTypedThing();
  return (
    <EntryFrame
      lead={words.addHoliday}
      submit={words.add}
      isReady={isThingReady('holiday', typed)}
      {...{ error, isBusy, onLeave }}
      onSubmit={() => onSave({ locationId: null, ...typed } as Holiday)}
    >
      <div className="entryfields">
        <ThingInputs section="holiday" {...{ typed, set }} />
      </div>
    </EntryFrame>
  );
};

type FileProps = {
  year: number;
  register: Register;
  placeOf: (id: number | null) => string;
  acts: ReturnType<typeof useCalendarActs>;
  onLeave: () => void;
};

const FromFile = ({ year, register, placeOf, acts, onLeave }: FileProps) => {
  const words = useWords(organisationWords);
  const { on } = useLens();
  const [locationId, setLocation] = useState<number | null>(null);
  const reading = useReadCalendar();
  const locations = [...register.allOn('location', on)].map(({ thing, values }) => ({
    value: thing,
    label: values.name,
  }));
  const read = reading.data;
  return (
    <div>
      <div className="entryform">
        <p className="source">{words.fileLead}</p>
        <div className="entryfields">
          <EntryField id="calendar-location" label={words.forLocation}>
            <Choice
              id="calendar-location"
              label={words.forLocation}
              value={locationId}
              options={locations}
              onChange={(value) => setLocation(value as number | null)}
            />
          </EntryField>
          <EntryField id="calendar-file" label={words.fromFile}>
            <input
              id="calendar-file"
              type="file"
              accept=".ics,text/calendar"
              onChange={(event) => {
                const [file] = event.target.files ?? [];
                if (file) reading.mutate({ file, year });
              }}
            />
          </EntryField>
        </div>
        <Problems of={reading.error} />
        {read && read.left > 0 && <p className="soft">{words.timed(read.left)}</p>}
      </div>
      {read && (
        <ProposedDays
          key={`${locationId} ${reading.submittedAt}`}
          proposals={read.days.map((one): Proposal => ({ ...one, locationId, isTaken: true, note: null }))}
          none={words.nothingInFile(year)}
          {...{ placeOf, acts, onLeave }}
        />
      )}
    </div>
  );
};
