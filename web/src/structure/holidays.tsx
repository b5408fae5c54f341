import type { Holiday, Organisation, Weekday } from '@gremium/contract';
import { weekdays } from '@gremium/contract';
import { type Register, copiedHolidays } from '@gremium/core';
import { Button } from 'antd';
import { useState } from 'react';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { EntryLinks } from '../time/entry-links';
import { EntryField } from '../ui/entry-field';
import { Choice } from '../ui/field-input';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { ThingInputs, type TypedThing, isThingReady } from '../ui/thing-inputs';
import { type Said, useCalendarActs, useReadCalendar } from './calendar-acts';
import { EntryFrame } from './entry-frame';
import { organisationWords } from './organisation-words';
import { type Proposal, ProposedDays } from './proposed-days';

type HolidaysProps = { register: Register; workingDays: Organisation['workingDays'] };
type Open = 'add' | 'copy' | 'file' | null;

const usualDays: Weekday[] = ['mon', 'tue', 'wed', 'thu', 'fri'];

/** The public holidays of a year by location: typed, copied from the year before, read from a calendar file. */
export const Holidays = ({ register, workingDays }: HolidaysProps) => {
  const words = useWords(organisationWords);
  const format = useFormat();
  const may = useMay();
  const { on } = useLens();
  const [year, setYear] = useState(Number(on.slice(0, 4)));
  const [open, setOpen] = useState<Open>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const acts = useCalendarActs((what) => {
    setSaid(what);
    setOpen(null);
  });
  const all = [...register.all('holiday')];
  const shown = all
    .filter(({ values }) => values.day.startsWith(`${year}-`))
    .sort((a, b) => (a.values.day < b.values.day ? -1 : 1));
  const placeOf = (id: number | null): string =>
    id === null ? words.everywhere : (register.rows('location', id).at(-1)?.values.name ?? '');
  const isWorked = ({ day }: Holiday): boolean => {
    const weekday = weekdays[(new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7];
    return (workingDays ?? usualDays).includes(weekday as Weekday);
  };
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
      {said && (
        <div className="savedline" role="status">
          <span className="moss">✓</span> {said.text}{' '}
          {said.entry !== null && <EntryLinks number={said.entry} />}
        </div>
      )}
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
                {!isWorked(values) && <span className="soft"> · {words.weekend}</span>}
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
            setYear(Number(one.day.slice(0, 4)));
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
          ).map(({ isSure, ...one }) => ({ ...one, isTaken: isSure, note: isSure ? null : words.mayMove }))}
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

const weekdayOf = (day: string): number => ((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7) + 1;

type AddProps = { error: Error | null; isBusy: boolean; onSave: (one: Holiday) => void; onLeave: () => void };

const AddHoliday = ({ error, isBusy, onSave, onLeave }: AddProps) => {
  const words = useWords(organisationWords);
  const [typed, setTyped] = useState<TypedThing>({});
  return (
    <EntryFrame
      lead={words.addHoliday}
      submit={words.add}
      isReady={isThingReady('holiday', typed)}
      {...{ error, isBusy, onLeave }}
      onSubmit={() => onSave({ locationId: null, ...typed } as Holiday)}
    >
      <div className="entryfields">
        <ThingInputs
          section="holiday"
          typed={typed}
          set={(name) => (value) => setTyped((before) => ({ ...before, [name]: value }))}
        />
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
