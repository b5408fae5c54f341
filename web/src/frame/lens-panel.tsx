import type { Day } from '@gremium/contract';
import { Button, Calendar, Input } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { dateFormatIn, useFormat } from '../texts/format';
import { useLens, useSetDay, useSetParams } from './lens';
import { useSession } from './session';

// As typed: 2027-03-01, 1.3.2027, or the day as the organisation writes it.
const typedDay = (text: string, dateFormat: string, language: string): Day | null => {
  const written = [dateFormat, 'D MMM YYYY', 'D MMMM YYYY'];
  const formats = [
    ...written,
    ...written.map((format) => dateFormatIn('de', format)),
    'YYYY-MM-DD',
    'D.M.YYYY',
  ];
  for (const format of formats) {
    const day = dayjs(text.trim(), format, language === 'de' ? 'de' : 'en-gb', true);
    if (day.isValid() && day.year() >= 1900 && day.year() <= 2199) return day.format('YYYY-MM-DD') as Day;
  }
  return null;
};

/** The lens opened: a date to type or to choose, and the moment known. */
export const LensPanel = ({ onClose }: { onClose: () => void }) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const { on, today, known } = useLens();
  const { dateFormat } = useSession();
  const setDay = useSetDay();
  const set = useSetParams();
  const [typed, setTyped] = useState('');
  const [moment, setMoment] = useState(known ? dayjs(known).format('YYYY-MM-DD HH:mm') : '');
  const [wrong, setWrong] = useState<'day' | 'moment' | null>(null);
  const look = () => {
    const day = typedDay(typed, dateFormat, i18n.language);
    if (!day) return setWrong('day');
    setDay(day);
    onClose();
  };
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
        {wrong === 'day' && <p className="wrong">! {t('lens.wrongDay')}</p>}
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
