import { recordEndpoints } from '@gremium/contract';
import type { Day, Found } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';

export type Chosen = { id: number; name: string };

type FinderProps = {
  id: string;
  label: string;
  kind: 'person' | 'position';
  chosen: Chosen | null;
  day: Day;
  /** Whether it may be left empty again. */
  clearable: boolean;
  onChoose: (chosen: Chosen | null) => void;
};

const useFound = (text: string, kind: Found['kind'], day: Day) => {
  const found = useQuery({
    queryKey: ['find', text, day],
    enabled: text.trim() !== '',
    // nothing found for what was typed before stays to be chosen: whoever types and presses Enter means the whole of it
    queryFn: ({ signal }) => call(recordEndpoints.find, { query: { text, on: day } }, { signal }),
  });
  const options = (found.data?.found ?? [])
    .filter((one) => one.kind === kind)
    .map((one) => ({ value: one.id, label: one.name, about: one.about }));
  return { options, isWaiting: text === '' || found.isPending };
};

/** Choosing a person or a position by any part of its name, on the day of the movement. */
export const Finder = ({ id, label, kind, chosen, day, clearable, onChoose }: FinderProps) => {
  const { t } = useTranslation();
  const [text, setText] = useState('');
  const { options, isWaiting } = useFound(text, kind, day);
  const own =
    chosen && !options.some(({ value }) => value === chosen.id)
      ? [{ value: chosen.id, label: chosen.name, about: null }]
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
      optionRender={({ data }) => (
        <div className="twoline">
          <div>{data.label}</div>
          {data.about && <div className="source">{data.about}</div>}
        </div>
      )}
      onClear={() => onChoose(null)}
      onSelect={(value: number, option: { label: string }) => {
        setText('');
        onChoose({ id: value, name: option.label });
      }}
    />
  );
};
