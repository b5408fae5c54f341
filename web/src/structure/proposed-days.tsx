import type { Holiday } from '@gremium/contract';
import { Checkbox } from 'antd';
import { useState } from 'react';
import { useWords } from '../texts/words';
import { DayInput, isDay } from '../ui/day-input';
import { PlainTable } from '../ui/plain-table';
import type { useCalendarActs } from './calendar-acts';
import { EntryFrame } from './entry-frame';
import { organisationWords } from './organisation-words';

/** A holiday that may be recorded; `note`: why to look at it first. */
export type Proposal = Holiday & { isTaken: boolean; note: string | null };

type ProposedProps = {
  proposals: Proposal[];
  none: string;
  placeOf: (id: number | null) => string;
  acts: ReturnType<typeof useCalendarActs>;
  onLeave: () => void;
};

/** Holidays proposed by a copy or a file: each taken or not, its day corrected; recorded as one entry. */
export const ProposedDays = ({ proposals, none, placeOf, acts, onLeave }: ProposedProps) => {
  const words = useWords(organisationWords);
  const [lines, setLines] = useState(proposals);
  const put = (at: number, change: Partial<Proposal>) =>
    setLines(lines.map((line, i) => (i === at ? { ...line, ...change } : line)));
  const taken = lines.filter(({ isTaken }) => isTaken);
  if (lines.length === 0) return <p className="soft">{none}</p>;
  return (
    <EntryFrame
      lead={words.proposed(lines.length)}
      submit={words.record(taken.length)}
      isReady={taken.length > 0}
      isBusy={acts.record.isPending}
      error={acts.record.error}
      onLeave={onLeave}
      onSubmit={() =>
        acts.record.mutate({
          holidays: taken.map(({ day, name, locationId }) => ({ day, name, locationId })),
          say: words.recorded,
        })
      }
    >
      <PlainTable
        heads={[
          { label: '' },
          { label: words.dayHead },
          { label: words.nameHead },
          { label: words.whereHead },
        ]}
        rows={lines.map(({ day, name, locationId, isTaken, note }, i) => ({
          key: i,
          cells: [
            <Checkbox
              key="take"
              aria-label={words.take(name)}
              checked={isTaken}
              onChange={(event) => put(i, { isTaken: event.target.checked })}
            />,
            <DayInput
              key="day"
              id={`proposed-${i}`}
              label={`${words.dayHead}, ${name}`}
              value={day}
              onChange={(next) =>
                isDay(next) ? put(i, { day: next, isTaken: true }) : put(i, { isTaken: false })
              }
            />,
            <span key="name">
              {name}
              {note && <span className="ochre"> ! {note}</span>}
            </span>,
            placeOf(locationId),
          ],
        }))}
      />
    </EntryFrame>
  );
};
