// The notation of timelines in tests: "2024-01-01 North | 2024-03-31 North-West | infinity".
import { Bound } from '@gremium/contract';
import type { Version } from './timeline';

/** A version of the tests’ notation. */
export type Named = Version<{ title: string; place: string }>;

/** Reads the notation; "title/place" gives two fields, "-" is a gap. */
export const timeline = (text: string): Named[] => {
  const parts = text.split('|').map((part) => part.trim());
  return parts.slice(0, -1).flatMap((part, i) => {
    const space = part.indexOf(' ');
    const [title = '', place = ''] = part.slice(space + 1).split('/');
    if (title === '-') return [];
    const until = Bound.parse((parts[i + 1] as string).split(' ')[0]);
    return [{ from: Bound.parse(part.slice(0, space)), until, values: { title, place } }];
  });
};

const words = ({ title, place }: { title: string; place: string }) => (place ? `${title}/${place}` : title);

/** Writes it. */
export const notation = (versions: readonly Named[]): string => {
  const ordered = [...versions].sort((a, b) => (a.from < b.from ? -1 : 1));
  const parts = ordered.flatMap((version, i) => {
    const next = ordered[i + 1];
    const gap = next && next.from !== version.until ? [`${version.until} -`] : [];
    return [`${version.from} ${words(version.values)}`, ...gap];
  });
  return [...parts, ordered.at(-1)?.until ?? 'nothing'].join(' | ');
};
