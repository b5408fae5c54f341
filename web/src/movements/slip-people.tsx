// Several people in a slip: found one by one, or by their numbers as they stand in an order.
import { type Day, type InputField, type Named, peopleEndpoints } from '@gremium/contract';
import { useMutation } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Finder } from '../ui/finder';
import { Problems } from '../ui/problems';
import type { Slip } from './use-slip';

type PeopleProps = { id: string; path: string; field: InputField; slip: Slip; label: string };

const FIRST = 8;

const en = {
  add: 'One more person',
  count: (count: number, shown: string) => (count === 1 ? '1 person' : `${shown} people`),
  takeOff: (name: string) => `Take ${name} off`,
  more: (shown: string) => `and ${shown} more`,
  less: 'fewer',
  all: 'show all',
  numbers: 'By their numbers',
  numbersLead: 'As they stand in the order: one a line, or parted by commas.',
  take: 'Add these',
  unknown: (numbers: string) => `Nobody you may see has: ${numbers}`,
};
const de: typeof en = {
  add: 'Noch eine Person',
  count: (count, shown) => (count === 1 ? '1 Person' : `${shown} Personen`),
  takeOff: (name) => `${name} wegnehmen`,
  more: (shown) => `und ${shown} weitere`,
  less: 'weniger',
  all: 'alle zeigen',
  numbers: 'Nach Personalnummern',
  numbersLead: 'Wie sie in der Anordnung stehen: eine je Zeile, oder durch Komma getrennt.',
  take: 'Diese hinzufügen',
  unknown: (numbers) => `Niemand, den Sie sehen dürfen, hat: ${numbers}`,
};

/** People chosen for a slip, each taken off again by a press. */
export const SlipPeople = ({ id, path, slip, label }: PeopleProps) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const { on } = useLens();
  const [isAll, setAll] = useState(false);
  const ids = (slip.valueOf(path) as number[] | undefined) ?? [];
  const add = (people: readonly Named[]) =>
    slip.put(path, [...new Set([...ids, ...people.map((one) => one.id)])], {
      names: [...slip.movement.names, ...people.map((one) => ({ ...one, kind: 'person' as const }))],
    });
  const nameOf = (one: number) => slip.nameOf('person', one);
  const shown = isAll ? ids : ids.slice(0, FIRST);
  return (
    <div className="slippeople">
      {ids.length > 1 && (
        <p>
          {words.count(ids.length, format.number(ids.length))}
          {ids.length > FIRST && (
            <>
              {' · '}
              <button type="button" className="textact" onClick={() => setAll(!isAll)}>
                {isAll ? words.less : words.all}
              </button>
            </>
          )}
        </p>
      )}
      <ul>
        {shown.map((one) => (
          <li key={one}>
            {nameOf(one)}{' '}
            <button
              type="button"
              className="textact"
              aria-label={words.takeOff(nameOf(one))}
              onClick={() => slip.put(path, ids.length > 1 ? ids.filter((other) => other !== one) : null)}
            >
              ×
            </button>
          </li>
        ))}
        {!isAll && ids.length > FIRST && (
          <li className="soft">{words.more(format.number(ids.length - FIRST))}</li>
        )}
      </ul>
      <Finder
        id={id}
        kind="person"
        label={ids.length > 0 ? `${label}: ${words.add}` : label}
        day={(slip.context?.day ?? on) as Day}
        clearable={false}
        chosen={null}
        onChoose={(chosen) => chosen && add([{ ...chosen, kind: 'person' } as Named])}
      />
      <ByNumbers id={`${id}-numbers`} onFound={add} />
    </div>
  );
};

const ByNumbers = ({ id, onFound }: { id: string; onFound: (people: readonly Named[]) => void }) => {
  const words = useWords({ en, de });
  const [text, setText] = useState('');
  const numbers = [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
  const finding = useMutation({
    mutationFn: () => call(peopleEndpoints.peopleByNumbers, { body: { numbers } }),
    onSuccess: ({ found, unknown }) => {
      if (found.length > 0) onFound(found as never);
      setText(unknown.join('\n'));
    },
  });
  const unknown = finding.data?.unknown ?? [];
  return (
    <details>
      <summary>{words.numbers}</summary>
      <label htmlFor={id} className="source">
        {words.numbersLead}
      </label>
      <Input.TextArea
        id={id}
        autoSize={{ minRows: 2, maxRows: 6 }}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {unknown.length > 0 && (
        <p className="brick" role="alert">
          ! {words.unknown(unknown.slice(0, 20).join(', '))}
        </p>
      )}
      <Problems of={finding.error} />
      <Button
        size="small"
        disabled={numbers.length === 0}
        loading={finding.isPending}
        onClick={() => finding.mutate()}
      >
        {words.take}
      </Button>
    </details>
  );
};
