import { type Found, recordEndpoints } from '@gremium/contract';
import { fold } from '@gremium/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Input, type InputRef, Modal } from 'antd';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { useStartMovement } from '../movements/start-movement';
import { useGo, useLens } from './lens';
import { useMay } from './session';

type Way = { key: string; kind: string; name: string; about: string | null; act: () => void };

/** People, units, positions, jobs, views, and acts ("hire", "transfer Maren"), by keyboard only. */
export const FindOrDo = ({ onClose }: { onClose: () => void }) => {
  const { t } = useTranslation();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const input = useRef<InputRef>(null);
  useEffect(() => input.current?.focus(), []);
  const { ways, isWaiting } = useWays(text, onClose);
  const chosen = Math.min(at, ways.length - 1);
  // Enter means what is found for the whole text: it waits for that, and a letter more takes it back
  const [isEntered, setEntered] = useState(false);
  const entered = isEntered && !isWaiting ? ways[chosen] : undefined;
  useEffect(() => entered?.act(), [entered]);
  const press = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) {
      event.preventDefault();
      setAt((chosen + step + ways.length) % Math.max(1, ways.length));
    }
    if (event.key !== 'Enter') return;
    if (isWaiting) setEntered(true);
    else ways[chosen]?.act();
  };
  return (
    <Modal
      open
      onCancel={onClose}
      footer={null}
      closable={false}
      width={560}
      title={null}
      className="find-or-do"
      afterOpenChange={() => input.current?.focus()}
      style={{ top: 48 }}
    >
      <Input
        ref={input}
        variant="borderless"
        size="large"
        role="combobox"
        aria-expanded
        aria-controls="ways"
        aria-activedescendant={ways[chosen] ? `way-${chosen}` : undefined}
        aria-label={t('find.open')}
        placeholder={t('find.example')}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setEntered(false);
        }}
        onKeyDown={press}
      />
      <ul id="ways" role="listbox" aria-label={t('find.open')}>
        {ways.map((way, i) => (
          <li
            key={way.key}
            id={`way-${i}`}
            role="option"
            aria-selected={i === chosen}
            onMouseDown={(event) => {
              event.preventDefault();
              way.act();
            }}
          >
            <span className="kind">{way.kind}</span>
            <span className="serif">{way.name}</span>
            <span className="source">{way.about}</span>
          </li>
        ))}
      </ul>
      {ways.length === 0 && <p className="source">{t('find.nothing')}</p>}
    </Modal>
  );
};

const pathOf = ({ kind, id }: Found): string =>
  kind === 'person'
    ? `/people/${id}`
    : kind === 'position'
      ? `/structure/positions/${id}`
      : '/structure/positions';

const useWays = (text: string, onClose: () => void): { ways: Way[]; isWaiting: boolean } => {
  const { t } = useTranslation();
  const { query } = useLens();
  const go = useGo();
  const may = useMay();
  const movement = useStartMovement();
  const words = fold(text).trim().split(/\s+/);
  const doing = (act: 'hire' | 'transfer') =>
    may.act(act) && words[0] !== '' && fold(t(`find.${act}`)).startsWith(words[0] ?? '');
  const isHire = doing('hire') && (words[0]?.length ?? 0) > 2;
  const isTransfer = doing('transfer') && (words[0]?.length ?? 0) > 2;
  const wanted = isHire || isTransfer ? words.slice(1).join(' ') : text.trim();
  const found = useQuery({
    queryKey: ['find', wanted, query, isHire],
    enabled: wanted !== '',
    queryFn: ({ signal }) =>
      call(
        recordEndpoints.find,
        { query: { text: wanted, ...query, ...(isHire ? { free: 'yes' as const } : {}) } },
        { signal },
      ),
    placeholderData: keepPreviousData,
  });
  const things = wanted === '' ? [] : (found.data?.found ?? []);
  const close = (act: () => void) => () => {
    act();
    onClose();
  };
  const opening = (one: Found): Way => ({
    key: `${one.kind} ${one.id}`,
    kind: t(`find.kind.${one.kind}`),
    name: one.name,
    about: one.about,
    act: close(() =>
      go(
        pathOf(one),
        one.kind === 'unit' ? { in: String(one.id) } : one.kind === 'job' ? { search: one.name } : {},
      ),
    ),
  });
  const acting = (one: Found): Way[] => {
    if (isHire && one.kind === 'position')
      return [
        {
          key: `hire ${one.id}`,
          kind: t('find.hire'),
          name: one.name,
          about: one.about,
          act: close(() => movement.hire(one.id, (params) => go(`/structure/positions/${one.id}`, params))),
        },
      ];
    if (isTransfer && one.kind === 'person')
      return [
        {
          key: `transfer ${one.id}`,
          kind: t('find.transfer'),
          name: one.name,
          about: one.about,
          act: close(() =>
            movement.transfer({ personId: one.id, person: one.name }, (params) =>
              go(`/people/${one.id}`, params),
            ),
          ),
        },
      ];
    return [];
  };
  const pages = [
    { path: '/people', name: t('divider.people'), is: may.view('person_name') },
    { path: '/structure/outline', name: t('view.outline'), is: may.view('unit') },
    { path: '/structure/positions', name: t('view.positions'), is: may.view('position') },
    { path: '/files/imports', name: t('view.imports'), is: may.act('import') },
    { path: '/files/templates', name: t('view.templates'), is: may.act('import') },
    { path: '/reports/cross-table', name: t('view.crossTable'), is: may.count },
    { path: '/setup/journal', name: t('view.journal'), is: may.act('journal') },
  ]
    .filter(({ is, name }) => is && fold(name).includes(fold(text).trim()))
    .map(({ path, name }) => ({
      key: path,
      kind: t('find.page'),
      name,
      about: null,
      act: close(() => go(path)),
    }));
  const isWaiting = wanted !== '' && (found.isPending || found.isPlaceholderData);
  return { ways: [...things.flatMap(acting), ...things.map(opening), ...pages], isWaiting };
};
