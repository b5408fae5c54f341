import { Button, Calendar, Input } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { DaySaid, useDayReader } from '../ui/day-input';
import { useLens, useSetDay, useSetParams } from './lens';

/** The lens opened: a date to type or to choose, and the moment known. */
export const LensPanel = ({ onClose }: { onClose: () => void }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, today, known } = useLens();
  const setDay = useSetDay();
  const set = useSetParams();
  const [typed, setTyped] = useState('');
  const [moment, setMoment] = useState(known ? dayjs(known).format('YYYY-MM-DD HH:mm') : '');
  const [wrong, setWrong] = useState<'day' | 'moment' | null>(null);
  const read = useDayReader();
  const reading = typed.trim() === '' ? null : read(typed, on);
  const go = (day: typeof on) => {
    setDay(day);
    onClose();
  };
  const look = () => (reading && 'value' in reading ? go(reading.value) : setWrong('day'));
  const know = () => {
    const at = dayjs(moment.trim().replace(' ', 'T'));
    if (moment.trim() === '' || !at.isValid()) return setWrong('moment');
    set({ known: at.toISOString() });
    onClose();
  };
  return (
    <div className="lens-panel">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          look();
        }}
      >
        <label htmlFor="lens-day">{t('lens.type')}</label>
        <div className="row">
          <Input
            id="lens-day"
            autoFocus
            variant="underlined"
            placeholder={format.day(on)}
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              setWrong(null);
            }}
          />
          <Button htmlType="submit">{t('lens.look')}</Button>
        </div>
        <DaySaid reading={reading} isTyped isWrong={wrong === 'day'} onTake={go} />
        {wrong === 'day' && (!reading || !('value' in reading)) && (
          <p className="wrong">! {t('lens.wrongDay')}</p>
        )}
      </form>
      <Calendar
        fullscreen={false}
        value={dayjs(on)}
        onSelect={(day, { source }) => {
          setDay(day.format('YYYY-MM-DD'));
          if (source === 'date') onClose();
        }}
      />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          know();
        }}
      >
        <label htmlFor="lens-known">{t('lens.recordedBy')}</label>
        <div className="row">
          <Input
            id="lens-known"
            variant="underlined"
            placeholder={`${today} 08:00`}
            value={moment}
            onChange={(event) => {
              setMoment(event.target.value);
              setWrong(null);
            }}
          />
          <Button htmlType="submit">{t('lens.look')}</Button>
        </div>
        <p className="source">{t('lens.recordedByHelp')}</p>
        {wrong === 'moment' && <p className="wrong">! {t('lens.wrongMoment')}</p>}
        {known && (
          <Button
            type="link"
            onClick={() => {
              set({ known: null });
              onClose();
            }}
          >
            {t('lens.knownNow')}
          </Button>
        )}
      </form>
    </div>
  );
};
