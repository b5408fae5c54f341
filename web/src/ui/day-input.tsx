// A day to type, in whatever way people write days, or to choose from a calendar. What was understood stands below in words,
// with its day of the week; what is no day stays as it was typed, is named, and is never another day.
import { Day, type FieldMeta } from '@gremium/contract';
import { dayOrderIn, readTypedDay } from '@gremium/core';
import { Calendar, Input, Popover } from 'antd';
import dayjs from 'dayjs';
import { Fragment, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSession } from '../frame/session';
import { useFormat } from '../texts/format';
import { useSentence } from './problems';
import { useSettled } from './use-settled';

/** Whether what an input of days gives is a day: not nothing, and not a text that is none. */
export const isDay = (value: unknown): value is Day => Day.safeParse(value).success;

/** Reads days as they are typed: in the organisation's order, counted from `at` or else from today. */
export const useDayReader = (birth?: FieldMeta['birth']) => {
  const { dateFormat, today } = useSession();
  return useMemo(
    () => (text: string, at: Day | null) =>
      readTypedDay(text, { order: dayOrderIn(dateFormat), today: today as Day, birth }, at),
    [dateFormat, today, birth],
  );
};

type DayProps = {
  id: string;
  /** A day, or a text that is none and is kept as it was typed. */
  value: unknown;
  /** Gives the day; null where nothing is typed, and the text itself where it is no day. */
  onChange: (value: string | null) => void;
  label?: string | undefined;
  birth?: FieldMeta['birth'];
  autoFocus?: boolean;
  /** Given only once the field is left, or Enter is pressed: where each day asks the server. */
  whenLeft?: boolean;
};

// `given`: what was given since the field was begun; while the value is one of these, what is typed is what counts.
type Typing = { text: string; at: Day | null; given: (string | null)[]; isLeft: boolean };

// Nobody is told that half a day is none: only after a pause, or once the field is left.
const PAUSE = 700;

const useTyping = ({ value, onChange, birth, whenLeft = false }: DayProps) => {
  const format = useFormat();
  const read = useDayReader(birth);
  const stored = typeof value === 'string' ? value : null;
  const [typing, setTyping] = useState<Typing | null>(null);
  const at = useRef<Day | null>(isDay(stored) ? stored : null);
  const live = typing?.given.includes(stored) ? typing : null;
  const shown = isDay(stored) ? format.day(stored) : (stored ?? '');
  const text = live?.text ?? shown;
  const reading = text.trim() === '' ? null : live || !isDay(stored) ? read(text, live?.at ?? null) : null;
  const give = (next: string, isLeft: boolean) => {
    const now = next.trim() === '' ? null : read(next, at.current);
    const given = now === null ? null : 'value' in now ? now.value : next;
    const before = live?.given ?? [stored];
    // a day that was counted is written out: counted once more it would be another one
    const written = isLeft && now && 'value' in now ? format.day(now.value) : next;
    // what is no day may stand there as nothing
    setTyping({
      text: written,
      at: at.current,
      given: [...before, given, ...(isDay(given) ? [] : [null])],
      isLeft,
    });
    if ((isLeft || !whenLeft) && given !== stored) onChange(given);
  };
  return {
    text,
    reading,
    isTyped: live !== null,
    isLeft: live?.isLeft ?? true,
    type: (next: string) => give(next, false),
    leave: () => live && give(live.text, true),
    take: (day: Day) => give(format.day(day), true),
    begin: () => {
      at.current = isDay(stored) ? stored : null;
    },
  };
};

/** The input of a day. */
export const DayInput = (props: DayProps) => {
  const { id, label, value, autoFocus = false } = props;
  const { t } = useTranslation();
  const typing = useTyping(props);
  const [isOpen, setOpen] = useState(false);
  const { text, reading } = typing;
  const settled = useSettled(text, PAUSE);
  const isWrong = reading !== null && 'problem' in reading && (typing.isLeft || settled === text);
  return (
    <div className="dayinput">
      <Input
        id={id}
        aria-label={label}
        aria-describedby={`${id}-said`}
        aria-invalid={isWrong}
        autoFocus={autoFocus}
        autoComplete="off"
        maxLength={60}
        className="line-input"
        variant="underlined"
        value={text}
        onFocus={typing.begin}
        onChange={(event) => typing.type(event.target.value)}
        onBlur={typing.leave}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' && event.altKey) setOpen(true);
          if (event.key !== 'Enter') return;
          // the day is taken, nothing else is done: what is typed is looked at before it is acted on
          event.preventDefault();
          typing.leave();
        }}
        suffix={
          <Popover
            trigger="click"
            placement="bottomRight"
            arrow={false}
            open={isOpen}
            onOpenChange={setOpen}
            content={
              <DayCalendar
                on={isDay(value) ? value : null}
                onChoose={(day) => {
                  setOpen(false);
                  typing.begin();
                  typing.take(day);
                }}
              />
            }
          >
            <button type="button" className="daybutton" tabIndex={-1} aria-label={t('day.choose')}>
              <span aria-hidden>▾</span>
            </button>
          </Popover>
        }
      />
      <div id={`${id}-said`}>
        <DaySaid {...{ reading, isWrong }} isTyped={typing.isTyped} onTake={typing.take} />
      </div>
    </div>
  );
};

const DayCalendar = ({ on, onChoose }: { on: Day | null; onChoose: (day: Day) => void }) => {
  const { today } = useSession();
  return (
    <div className="daycalendar">
      <Calendar
        fullscreen={false}
        defaultValue={dayjs(on ?? today)}
        onSelect={(day, { source }) => source === 'date' && onChoose(day.format('YYYY-MM-DD') as Day)}
      />
    </div>
  );
};

type SaidProps = {
  reading: ReturnType<typeof useTyping>['reading'];
  isTyped: boolean;
  isWrong: boolean;
  onTake: (day: Day) => void;
};

/** What was understood of a day that is typed; or what is wrong with it, and the days it may mean. */
export const DaySaid = ({ reading, isTyped, isWrong, onTake }: SaidProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const sentence = useSentence();
  if (reading === null) return null;
  if ('value' in reading)
    return isTyped && <div className="source understood">{format.dayInWords(reading.value)}</div>;
  if (!isWrong) return null;
  return (
    <div className="source brick" role="alert">
      ! {sentence(reading.problem)}{' '}
      {reading.offers.map((offer, i) => (
        <Fragment key={offer}>
          {i > 0 && ` ${t('or')} `}
          <button type="button" className="textact" onClick={() => onTake(offer)}>
            {format.dayInWords(offer)}
          </button>
        </Fragment>
      ))}
    </div>
  );
};
