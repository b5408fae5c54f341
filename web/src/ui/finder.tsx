import { recordEndpoints } from '@gremium/contract';
import type { Day, Found } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { type MarkName, OccupancyMark } from './occupancy-mark';

export type Chosen = { id: number; name: string };

type FinderProps = {
  id: string;
  label: string;
  kind: 'person' | 'position';
  chosen: Chosen | null;
  day: Day;
  /** Whether it may be left empty again. */
  clearable: boolean;
  /** Of positions: those with something free stand first. */
  freeFirst?: boolean;
  /** Of positions: what is free in this unit is offered before anything is typed. */
  within?: number | undefined;
  onChoose: (chosen: Chosen | null) => void;
};

type Asked = {
  text: string;
  kind: Found['kind'];
  day: Day;
  freeFirst: boolean;
  within: number | undefined;
};

const useFound = ({ text, kind, day, freeFirst, within }: Asked) => {
  const isOffered = text.trim() === '' && within !== undefined;
  const free = freeFirst ? { free: 'first' as const } : {};
  const more = isOffered ? { free: 'yes' as const, unit: within } : free;
  const found = useQuery({
    queryKey: ['find', text, day, kind, more],
    enabled: isOffered || text.trim() !== '',
    // nothing found for what was typed before stays to be chosen: whoever types and presses Enter means the whole of it
    queryFn: ({ signal }) =>
      call(recordEndpoints.find, { query: { text, on: day, kind, ...more } }, { signal }),
  });
  const options = (found.data?.found ?? []).map((one) => ({ value: one.id, label: one.name, found: one }));
  return { options, isWaiting: (text === '' && !isOffered) || found.isPending };
};

/** Choosing a person or a position by any part of its name, on the day of the movement. */
export const Finder = ({
  id,
  label,
  kind,
  chosen,
  day,
  clearable,
  freeFirst,
  within,
  onChoose,
}: FinderProps) => {
  const { t } = useTranslation();
  const [text, setText] = useState('');
  const { options, isWaiting } = useFound({ text, kind, day, freeFirst: freeFirst === true, within });
  const own =
    chosen && !options.some(({ value }) => value === chosen.id)
      ? [{ value: chosen.id, label: chosen.name, found: null }]
      : [];
  return (
    <Select
      id={id}
      aria-label={label}
      className="line-input"
      variant="underlined"
      allowClear={clearable}
      showSearch={{ filterOption: false, onSearch: setText, searchValue: text }}
      value={chosen?.id ?? null}
      placeholder={t(kind === 'person' ? 'slip.findPerson' : 'slip.findPosition')}
      notFoundContent={isWaiting ? null : t('find.nothing')}
      options={[...own, ...options]}
      optionRender={({ data }) => <FoundLine name={String(data.label)} found={data.found} />}
      onClear={() => onChoose(null)}
      onSelect={(value: number, option: { label: string }) => {
        setText('');
        onChoose({ id: value, name: option.label });
      }}
    />
  );
};

// Two lines: what it is called, with its mark; where it stands, and who leads it.
const FoundLine = ({ name, found }: { name: string; found: Found | null }) => {
  const { t } = useTranslation();
  const { mark, about, manager } = found ?? {};
  const under = [about, manager && `${t('record.reportsTo')} ${manager}`].filter(Boolean).join(' · ');
  return (
    <div className="twoline">
      <div>
        {mark && <OccupancyMark mark={mark as MarkName} />} {name}
      </div>
      {under && <div className="source">{under}</div>}
    </div>
  );
};
