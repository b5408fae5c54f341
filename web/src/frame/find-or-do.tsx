import {
  type Found,
  MeasureName,
  type MovementKind,
  measureWords,
  movementKinds,
  movementOf,
  recordEndpoints,
} from '@gremium/contract';
import { beginsWords, fold } from '@gremium/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Input, type InputRef, Modal } from 'antd';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import type { EarlyKeys } from './early-keys';
import { useGo, useLens } from './lens';
import { pages, pathOf, usePageName } from './pages';
import { useMay } from './session';

type Way = { key: string; kind: string; name: string; about: string | null; act: () => void };

/** People, units, positions, jobs, views, and acts ("hire", "transfer Maren"), by keyboard only. */
export const FindOrDo = ({ early, onClose }: { early: EarlyKeys; onClose: () => void }) => {
  const { t } = useTranslation();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const input = useRef<InputRef>(null);
  useEffect(() => {
    input.current?.focus();
    return () => void early.end();
  }, [early]);
  // from here on letters are its own
  const takeOver = () => {
    const typed = early.end();
    if (typed !== '') setText((before) => before + typed);
  };
  const write = (next: string) => {
    setText(next);
    setAt(0);
    setEntered(false);
  };
  const { ways, isWaiting } = useWays({ text, setText: write, onClose });
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
        onChange={(event) => write(event.target.value)}
        onFocus={takeOver}
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

// An act is meant from so many letters on: with fewer, "lea" would not find Lea.
const LEAST = 4;

// The part of what is typed that names an act, and what is left to look for: "leave maren", "new position harbour".
const actsNamed = (
  words: readonly string[],
  acts: readonly Act[],
): { acts: Act[]; wanted: string } | null => {
  for (let count = words.length; count > 0; count--) {
    const said = words.slice(0, count).join(' ');
    const named =
      said.length >= LEAST ? acts.filter(({ names }) => names.some((name) => name.startsWith(said))) : [];
    if (named.length > 0) return { acts: named, wanted: words.slice(count).join(' ') };
  }
  return null;
};

type Act = { kind: MovementKind; label: string; names: string[]; from: readonly string[] };

// Acts that the user may do, by all that they are called.
const useActsNamed = (): Act[] => {
  const { i18n } = useTranslation();
  const may = useMay();
  const isGerman = i18n.language === 'de';
  return movementKinds.flatMap((kind) => {
    const { act, name, starts, right } = movementOf(kind);
    if (!may.do(right)) return [];
    const label = isGerman ? act.de : act.en;
    const names = [label, isGerman ? name.de : name.en, kind.replace('_', ' ')].map(fold);
    return { kind, label, names, from: Object.keys(starts) };
  });
};

const useFound = (wanted: string, isHire: boolean) => {
  const { query } = useLens();
  // a hire that says nothing else shows what can be hired into
  const isAsked = wanted !== '' || isHire;
  const found = useQuery({
    queryKey: ['find', wanted, query, isHire],
    enabled: isAsked,
    queryFn: ({ signal }) =>
      call(
        recordEndpoints.find,
        { query: { text: wanted, ...query, ...(isHire ? { free: 'yes' as const } : {}) } },
        { signal },
      ),
    placeholderData: keepPreviousData,
  });
  const things = isAsked ? (found.data?.found ?? []) : [];
  return { things, isWaiting: isAsked && (found.isPending || found.isPlaceholderData) };
};

type Asked = { text: string; setText: (text: string) => void; onClose: () => void };

const useWays = ({ text, setText, onClose }: Asked): { ways: Way[]; isWaiting: boolean } => {
  const { t } = useTranslation();
  const go = useGo();
  const goTo =
    (path: string, params: Record<string, string> = {}) =>
    () => {
      go(path, params);
      onClose();
    };
  const places = usePlaces(text, goTo);
  const said = fold(text).trim();
  const named = actsNamed(said.split(/\s+/), useActsNamed());
  const isWhole = named?.acts.some(({ names }) => names.includes(said)) ?? false;
  const isHire = named?.acts.every(({ kind }) => kind === 'hire') ?? false;
  // a part of an act's name may as well be one of a name
  const wanted = named && (named.wanted !== '' || isWhole) ? named.wanted : text.trim();
  const { things, isWaiting } = useFound(wanted, isHire && wanted !== text.trim());
  const opening = (one: Found): Way => ({
    key: `${one.kind} ${one.id}`,
    kind: t(`find.kind.${one.kind}`),
    name: one.name,
    about: one.about,
    act: goTo(pathOf(one.kind, one.id)),
  });
  // the record itself knows whether it can be begun, and how
  const acting = (one: Found): Way[] =>
    (named?.acts ?? [])
      .filter(({ from }) => from.includes(one.kind))
      .map(({ kind, label }) => ({
        key: `${kind} ${one.id}`,
        kind: label,
        name: one.name,
        about: one.about,
        act: goTo(pathOf(one.kind, one.id), { do: kind }),
      }));
  // an act alone asks of whom, or into what: it is typed on
  const asking = (act: Act): Way => ({
    key: `ask ${act.kind}`,
    kind: t('find.act'),
    name: act.label,
    about: t('find.ofWhat', {
      what: act.from.map((kind) => t(`find.kind.${kind as Found['kind']}`)).join(` ${t('or')} `),
    }),
    act: () => setText(`${act.label} `),
  });
  const acts = named && named.wanted !== '' ? things.flatMap(acting) : [];
  const hires = isWhole && isHire ? things.flatMap(acting) : [];
  const asked = named && named.wanted === '' ? named.acts.map(asking) : [];
  const opened = isHire && wanted !== text.trim() ? [] : things.map(opening);
  return {
    ways: isWhole ? [...asked, ...hires, ...opened, ...places] : [...acts, ...places, ...opened, ...asked],
    isWaiting,
  };
};

type GoTo = (path: string, params?: Record<string, string>) => () => void;

// Pages, and measures of reports, some word of whose name begins so.
const usePlaces = (text: string, goTo: GoTo): Way[] => {
  const { t, i18n } = useTranslation();
  const may = useMay();
  const nameOf = usePageName();
  const words = fold(text).split(' ').filter(Boolean);
  const isMeant = (...names: string[]) => beginsWords(words, fold(names.join(' ')));
  const pagesMeant = pages
    .filter((page) => page.may(may) && isMeant(nameOf(page), t(`divider.${page.divider}`)))
    .map((page) => ({
      key: page.path,
      kind: t('find.page'),
      name: nameOf(page),
      about: null,
      act: goTo(page.path),
    }));
  if (words.length === 0) return pagesMeant;
  const { measures } = measureWords[i18n.language === 'de' ? 'de' : 'en'];
  const measuresMeant = MeasureName.options
    .filter((measure) => may.count && isMeant(measures[measure]))
    .map((measure) => ({
      key: `measure ${measure}`,
      kind: t('find.figure'),
      name: measures[measure],
      about: null,
      act: goTo('/reports/cross-table', { measure }),
    }));
  return [...measuresMeant, ...pagesMeant];
};
