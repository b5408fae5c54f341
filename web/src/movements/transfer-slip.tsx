import type { Day, TransferInput } from '@gremium/contract';
import { recordEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Input, Select } from 'antd';
import { useId, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { DayInput, Understood } from '../ui/field-input';
import { readHours } from '../ui/typed';
import { type LocalDraft, keepDraft } from './drafts';
import { MovementSlip } from './movement-slip';
import { ReasonField, SlipField, type Words } from './slip-parts';
import { useSlipShowing } from './slip-showing';

export type TransferContent = {
  personId?: number;
  person?: string;
  positionId?: number;
  position?: string;
  firstDay: Day;
  reasonId?: number | null;
  hours?: string;
  words?: Words;
};

type Chosen = { id: number; name: string };

/** Choosing a person or a position by any part of its name, on the day of the movement. */
const Finder = ({
  id,
  kind,
  chosen,
  day,
  onChoose,
}: {
  id: string;
  kind: 'person' | 'position';
  chosen: Chosen | null;
  day: Day;
  onChoose: (chosen: Chosen) => void;
}) => {
  const { t } = useTranslation();
  const [text, setText] = useState('');
  const found = useQuery({
    queryKey: ['find', text, day],
    enabled: text.trim() !== '',
    // nothing found for what was typed before stays to be chosen: whoever types and presses Enter means the whole of it
    queryFn: ({ signal }) => call(recordEndpoints.find, { query: { text, on: day } }, { signal }),
  });
  const options = (found.data?.found ?? [])
    .filter((one) => one.kind === kind)
    .map((one) => ({ value: one.id, label: one.name, about: one.about }));
  const own =
    chosen && !options.some(({ value }) => value === chosen.id)
      ? [{ value: chosen.id, label: chosen.name, about: null }]
      : [];
  return (
    <Select
      id={id}
      aria-label={t(kind === 'person' ? 'slip.who' : 'slip.where')}
      className="line-input"
      variant="underlined"
      showSearch={{ filterOption: false, onSearch: setText, searchValue: text }}
      value={chosen?.id ?? null}
      placeholder={t(kind === 'person' ? 'slip.findPerson' : 'slip.findPosition')}
      notFoundContent={text === '' || found.isPending ? null : t('find.nothing')}
      options={[...own, ...options]}
      optionRender={({ data }) => (
        <div className="twoline">
          <div>{data.label}</div>
          {data.about && <div className="source">{data.about}</div>}
        </div>
      )}
      onSelect={(value: number, option: { label: string }) => {
        setText('');
        onChoose({ id: value, name: option.label });
      }}
    />
  );
};

/** The slip of a permanent transfer: who, where to, from which day, why. */
export const TransferSlip = ({ draft }: { draft: LocalDraft }) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const { today } = useLens();
  const id = useId();
  const content = draft.content as TransferContent;
  const { personId, positionId, firstDay } = content;
  const showing = useSlipShowing([positionId]);
  const put = (changes: Partial<TransferContent>) =>
    keepDraft({ ...draft, content: { ...content, ...changes } });
  if (!showing) return <p className="waiting">{t('waiting')}</p>;
  const hours = content.hours?.trim() ? readHours(content.hours, i18n.language) : null;
  const input: TransferInput | null =
    personId && positionId
      ? {
          personId,
          positionId,
          firstDay,
          reasonId: content.reasonId ?? null,
          ...(hours && 'value' in hours ? { hours: hours.value as number } : {}),
        }
      : null;
  const position = content.position ?? showing.nameOf('position', positionId);
  return (
    <MovementSlip
      draft={draft}
      title={content.person ?? t('slip.who')}
      lead={position ? t('slip.transferTo', { position }) : t('slip.transferWhere')}
      asking={input && { kind: 'transfer', input }}
      missing={[
        ...(personId ? [] : [t('slip.needsPerson')]),
        ...(positionId ? [] : [t('slip.needsPosition')]),
        ...(hours && 'problem' in hours ? [t('slip.needsHours')] : []),
      ]}
      words={content.words ?? {}}
      onWords={(words) => put({ words })}
      showing={showing}
      submit={t('slip.completeTransfer')}
    >
      {(!personId || draft.about.startsWith('position')) && (
        <SlipField id={`${id}person`} label={t('slip.who')}>
          <Finder
            id={`${id}person`}
            kind="person"
            day={firstDay}
            chosen={personId ? { id: personId, name: content.person ?? '' } : null}
            onChoose={(chosen) => put({ personId: chosen.id, person: chosen.name })}
          />
        </SlipField>
      )}
      {(!positionId || draft.about.startsWith('person')) && (
        <SlipField id={`${id}position`} label={t('slip.where')}>
          <Finder
            id={`${id}position`}
            kind="position"
            day={firstDay}
            chosen={positionId ? { id: positionId, name: position } : null}
            onChoose={(chosen) => put({ positionId: chosen.id, position: chosen.name })}
          />
        </SlipField>
      )}
      <div className="pair">
        <SlipField
          id={`${id}firstDay`}
          label={t('slip.firstDay')}
          source={firstDay === today ? null : t('source.lens')}
        >
          <DayInput
            id={`${id}firstDay`}
            value={firstDay}
            onChange={(day) => day && put({ firstDay: day as Day })}
          />
        </SlipField>
        <SlipField id={`${id}hours`} label={t('slip.hours')} source={hours ? null : t('slip.hoursFollow')}>
          <Input
            id={`${id}hours`}
            className="line-input"
            variant="underlined"
            value={content.hours ?? ''}
            onChange={(event) => put({ hours: event.target.value })}
          />
          {hours && (
            <Understood
              read={hours}
              say={(read) => t('slip.hoursRead', { hours: format.hundredths(read as number) })}
              onTake={(text) => put({ hours: text })}
            />
          )}
        </SlipField>
      </div>
      <ReasonField
        id={`${id}reason`}
        act="transfer"
        register={showing.register}
        on={firstDay}
        value={content.reasonId ?? null}
        onChange={(reasonId) => put({ reasonId })}
      />
    </MovementSlip>
  );
};
