// What a last day of validity says on the day looked at.
import type { Day } from '@gremium/contract';
import { expiryOn } from '@gremium/core';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';

const en = {
  ranOut: (day: string) => `ran out on ${day}`,
  runsOut: (day: string) => `runs out on ${day}`,
};
const de: typeof en = {
  ranOut: (day) => `am ${day} abgelaufen`,
  runsOut: (day) => `läuft am ${day} ab`,
};

/** Fields that say until when something holds. */
export const EXPIRES: readonly string[] = ['expiresOn', 'lapsesOn'];

/** A last day in words, as it stands on the day looked at. */
export const useExpirySaid = () => {
  const words = useWords({ en, de });
  const format = useFormat();
  const { on } = useLens();
  return (until: Day): { text: string; tone: string | undefined } => {
    const day = format.day(until);
    const is = expiryOn(until, on);
    if (is === 'over') return { text: words.ranOut(day), tone: 'wrong' };
    return is === 'due' ? { text: words.runsOut(day), tone: 'ochre' } : { text: day, tone: undefined };
  };
};
