import { type SectionName, honourEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useWords } from '../texts/words';

const en = {
  record: (names: string) => `You may look at this. It is recorded by ${names}.`,
  nobody: 'You may look at this. Nobody is given the right to record it yet.',
  see: (names: string) => `Seen by ${names}.`,
};
const de: typeof en = {
  record: (names) => `Sie dürfen dies ansehen. Erfasst wird es von ${names}.`,
  nobody: 'Sie dürfen dies ansehen. Noch hat niemand das Recht, es zu erfassen.',
  see: (names) => `Gesehen von ${names}.`,
};

/** Who records in a section, for whoever may not; or who sees it, where that is to be known before something is written. */
export const WhoMay = ({ section, isSeen = false }: { section: SectionName; isSeen?: boolean }) => {
  const words = useWords({ en, de });
  const { data } = useQuery({
    queryKey: ['who may', section],
    queryFn: () => call(honourEndpoints.whoMay, { params: { section } }),
    meta: { reads: [] },
  });
  if (!data) return null;
  const listed = (names: readonly string[]) => names.join(', ');
  if (isSeen) return data.see.length > 0 ? <p className="source">{words.see(listed(data.see))}</p> : null;
  return (
    <p className="source">{data.record.length > 0 ? words.record(listed(data.record)) : words.nobody}</p>
  );
};
