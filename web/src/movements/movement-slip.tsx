import type { Problem } from '@gremium/contract';
import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { useFormat } from '../texts/format';
import type { Showing } from '../ui/field-value';
import { type LocalDraft, discardDraft } from './drafts';
import { Conflicts } from './conflicts';
import { BeforeAfter, Checks, Effects, type Words } from './slip-parts';
import { type Asking, type Moved, useMovement } from './use-movement';

type SlipProps = {
  draft: LocalDraft;
  title: string;
  lead: string;
  /** Null while too little is known for a preview. */
  asking: Asking | null;
  /** What is still needed before it can be completed, in words. */
  missing: string[];
  /** Problems said elsewhere. */
  hidden?: Problem['code'][];
  words: Words;
  onWords: (words: Words) => void;
  showing: Showing;
  submit: string;
  children: React.ReactNode;
};

/** The slip of a movement: fields, before and after with sources, checks, effects, and the act pinned at its foot. */
export const MovementSlip = (props: SlipProps) => {
  const {
    draft,
    title,
    lead,
    asking,
    missing,
    hidden = [],
    words,
    onWords,
    showing,
    submit,
    children,
  } = props;
  const { t } = useTranslation();
  const format = useFormat();
  const set = useSetParams();
  const { today, known } = useLens();
  const { preview, problems, done, isPending, complete } = useMovement(draft.key, asking, words);
  const isHire = asking?.kind === 'hire' || draft.kind === 'hire';
  const conflicts = problems.filter(({ code }) => code === 'movement_conflict');
  const shown = problems.filter(({ code }) => !hidden.includes(code) && code !== 'movement_conflict');
  // words may stand beside it, and a conflict is to be looked at: neither stops a second try
  const stops = shown.some(({ severity, code }) => severity === 'error' && code !== 'word_missing');
  const unsaid = shown.some(({ severity, code }) => severity === 'warning' && !words[code]?.trim());
  const mayComplete = missing.length === 0 && !stops && !unsaid && !known;
  if (done)
    return (
      <Result moved={done} {...{ title, showing }} firstDay={asking?.input.firstDay ?? ''} isHire={isHire} />
    );
  const keptInWords = ({ keptAt, refused }: LocalDraft): string => {
    if (refused) return t('draft.notKept');
    return keptAt ? t('draft.kept', { at: format.recently(keptAt) }) : t('draft.keeping');
  };
  const firstDay = asking?.input.firstDay;
  return (
    <>
      <header className="sliphead">
        <div className="kind">
          <span>{t(isHire ? 'entry.hire' : 'entry.transfer')}</span>
          <span className="soft">{keptInWords(draft)}</span>
        </div>
        <h2>{title}</h2>
        <p className="soft">{lead}</p>
      </header>
      <form
        className="slipbody"
        id="slip"
        onKeyDown={keepEnter}
        onSubmit={(event) => {
          event.preventDefault();
          // also before its checks have come: they are made again, and nothing is written that does not pass them
          if (mayComplete) complete();
        }}
      >
        {children}
        <Conflicts conflicts={conflicts} showing={showing} />
        {preview && preview.slip.length > 0 && (
          <BeforeAfter slip={preview.slip} showing={showing} hasBefore={!isHire} />
        )}
        {asking && (
          <Checks
            problems={shown}
            looked={preview?.looked ?? []}
            words={words}
            onWord={(code, word) => onWords({ ...words, [code]: word })}
          />
        )}
        {preview && firstDay && <Effects effects={preview.effects} day={firstDay} />}
      </form>
      <footer className="slipfoot">
        {missing.length > 0 && <p className="soft">{t('slip.missing', { what: missing.join(', ') })}</p>}
        {known && <p className="ochre">! {t('lens.pastOnly')}</p>}
        {mayComplete && <p className="soft">{t('slip.noRoute')}</p>}
        {unsaid && !stops && <p className="ochre">! {t('slip.unsaid')}</p>}
        <div className="acts">
          <Button type="primary" htmlType="submit" form="slip" disabled={!mayComplete} loading={isPending}>
            {firstDay && firstDay !== today
              ? t('slip.from', { act: submit, day: format.day(firstDay) })
              : submit}
          </Button>
          <Button type="text" onClick={() => set({ slip: null })}>
            {t('slip.keep')}
          </Button>
          <Button
            type="text"
            onClick={() => {
              set({ slip: null });
              void discardDraft(draft.key);
            }}
          >
            {t('slip.discard')}
          </Button>
        </div>
      </footer>
    </>
  );
};

// Enter in a picker or an open list confirms what is chosen there, and nothing else: only a plain field completes the slip.
const keepEnter = (event: React.KeyboardEvent): void => {
  if (event.key === 'Enter' && (event.target as Element).closest('.ant-picker, .ant-select'))
    event.preventDefault();
};

type ResultProps = { moved: Moved; title: string; showing: Showing; firstDay: string; isHire: boolean };

/** What was done: each value with its source, from when, that nobody is asked, and where to look at it. */
const Result = ({ moved, title, showing, firstDay, isHire }: ResultProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const set = useSetParams();
  return (
    <>
      <header className="sliphead" role="status">
        <div className="kind">
          <span className="moss">✓ {t('slip.saved')}</span>
          <span className="soft">{t('slip.entryNumber', { number: moved.entry ?? 0 })}</span>
        </div>
        <h2>{title}</h2>
        <p>{t('slip.inEffect', { day: format.day(firstDay) })}</p>
      </header>
      <div className="slipbody">
        <BeforeAfter slip={moved.slip} showing={showing} hasBefore={!isHire} />
        <Effects effects={moved.effects} day={firstDay as never} />
        <ul className="ways">
          {moved.personId !== null && (
            <li>
              <Link to={to(`/people/${moved.personId}`, { slip: null, on: firstDay })}>
                {t('slip.toPerson')}
              </Link>
            </li>
          )}
          {moved.positionId !== null && (
            <li>
              <Link to={to(`/structure/positions/${moved.positionId}`, { slip: null, on: firstDay })}>
                {t('slip.toPosition')}
              </Link>
            </li>
          )}
          <li>
            <Link to={to('/structure/outline', { slip: null, on: firstDay })}>{t('slip.toOutline')}</Link>
          </li>
          <li>
            <Link to={to(`/setup/journal/${moved.entry ?? 0}`, { slip: null })}>{t('slip.toEntry')}</Link>
          </li>
        </ul>
      </div>
      <footer className="slipfoot">
        <div className="acts">
          <Button type="primary" autoFocus onClick={() => set({ slip: null })}>
            {t('slip.close')}
          </Button>
          <Button type="text" onClick={() => set({ slip: null, undo: String(moved.entry ?? '') })}>
            {t('undo.act')}
          </Button>
        </div>
      </footer>
    </>
  );
};
