import type { Bound, Day, Moment, Organisation } from '@gremium/contract';
import dayjs from 'dayjs';
import { useContext, useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { SessionContext } from '../frame/session';

/** The organisation's format of days as a language writes it: "25. Feb. 2025" in German. */
export const dateFormatIn = (language: string, dateFormat: string): string =>
  language === 'de' ? dateFormat.replace(/^(D{1,2}) /, '$1. ') : dateFormat;

// A language that writes numbers so; none said: that of the reader.
const numbersIn = (numberFormat: Organisation['numberFormat']): string | null =>
  numberFormat &&
  { '1,234.56': 'en-GB', '1.234,56': 'de-DE', '1 234,56': 'fi-FI', '1’234.56': 'de-CH' }[numberFormat];

const localeOf = (language: string): string => (language === 'en' ? 'en-GB' : language);

/** Days, moments, FTE, money and numbers in the user's language and the organisation's format. */
export const useFormat = () => {
  const { t, i18n } = useTranslation();
  // on the sign-in page nobody is signed in yet
  const {
    dateFormat = 'D MMM YYYY',
    numberFormat = null,
    today = '',
  } = useContext(SessionContext)?.session ?? {};
  const { language } = i18n;
  return useMemo(() => {
    const locale = localeOf(language);
    const numbers = numbersIn(numberFormat) ?? locale;
    const number = new Intl.NumberFormat(numbers);
    const twoPlaces = new Intl.NumberFormat(numbers, { minimumFractionDigits: 2, maximumFractionDigits: 2 });
    const onePlace = new Intl.NumberFormat(numbers, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
    const monthIn = (options: Intl.DateTimeFormatOptions) =>
      new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' });
    const months = {
      long: monthIn({ month: 'long', year: 'numeric' }),
      short: monthIn({ month: 'short' }),
      year: monthIn({ month: 'short', year: '2-digit' }),
    };
    const day = (of: Bound | string | null): string => {
      if (of === null) return '–';
      if (of === '-infinity') return t('time.beginning');
      if (of === 'infinity') return t('time.open');
      return dayjs(of)
        .locale(language === 'de' ? 'de' : 'en-gb')
        .format(dateFormatIn(language, dateFormat));
    };
    const inWords = new Intl.DateTimeFormat(locale, { dateStyle: 'full', timeZone: 'UTC' });
    const clock = new Intl.DateTimeFormat(locale, { timeStyle: 'short' });
    const moments = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short' });
    return {
      day,
      /** With the day of the week, for the lens and the strip. */
      dayInWords: (of: Day) => inWords.format(new Date(`${of}T00:00:00Z`)),
      /** The day on which a moment lay, as its time is shown: in the reader's zone. */
      dayOf: (of: Moment | string) => dayjs(of).format('YYYY-MM-DD') as Day,
      moment: (of: Moment | string) => moments.format(new Date(of)),
      /** A size in bytes, in KB or MB. */
      size: (bytes: number) =>
        bytes < 1_000_000
          ? `${number.format(Math.max(1, Math.round(bytes / 1000)))} KB`
          : `${onePlace.format(bytes / 1_000_000)} MB`,
      /** The time of a moment alone. */
      clock: (of: Moment | string) => clock.format(new Date(of)),
      /** The time alone for a moment of today. */
      recently: (of: Moment | string) =>
        dayjs(of).format('YYYY-MM-DD') === today ? clock.format(new Date(of)) : moments.format(new Date(of)),
      /** A month `YYYY-MM`: "October 2026", or short "Oct". */
      month: (of: string, style: 'long' | 'short' | 'year' = 'long') =>
        months[style].format(new Date(`${of}-01T00:00:00Z`)),
      /** A fraction in hundredths, to one place, without the sign. */
      rate: (of: number) => onePlace.format(of * 100),
      number: (n: number) => number.format(n),
      /** The name of a month, or of a day of the week (1 is Monday). */
      named: (of: 'month' | 'weekday', n: number, style: 'long' | 'short' = 'long') =>
        new Intl.DateTimeFormat(locale, { [of]: style, timeZone: 'UTC' }).format(
          of === 'month' ? Date.UTC(2024, n - 1, 1) : Date.UTC(2024, 0, n),
        ),
      /** Hundredths as 1.00. */
      hundredths: (n: number) => twoPlaces.format(n / 100),
      decimal: (text: string) => number.format(Number(text)),
      /** Decimal text with two places, or as many as it has. */
      amount: (text: string) =>
        new Intl.NumberFormat(numbers, { minimumFractionDigits: 2, maximumFractionDigits: 4 }).format(
          Number(text),
        ),
      /** A fraction as a signed per cent: +2.9 %. */
      changeOf: (of: number) => `${of > 0 ? '+' : of < 0 ? '−' : ''}${onePlace.format(Math.abs(of * 100))} %`,
      money: (amount: number, currency: string) =>
        `${new Intl.NumberFormat(numbers, { maximumFractionDigits: 0 }).format(amount)} ${currency}`,
      locale,
    };
  }, [t, language, dateFormat, numberFormat, today]);
};

/** How typed numbers are read: as the organisation writes them, else as the language does (see `groupingOf`). */
export const useReading = (): string => {
  const { language } = useTranslation().i18n;
  const numberFormat = useContext(SessionContext)?.session.numberFormat ?? null;
  if (!numberFormat) return language;
  return numberFormat.endsWith(',56') ? 'de' : 'en';
};

export type Format = ReturnType<typeof useFormat>;
