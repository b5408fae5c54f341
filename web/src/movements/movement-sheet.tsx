// One movement: what it asks, what it waits for, what is to be said of it, what came of it and its story.
import './movement-sheet.css';
import {
  type Day,
  type MovementSheet as Sheet,
  type ReplyOf,
  type SayingOut,
  movementOf,
  onTheirWayEndpoints,
} from '@gremium/contract';
import { isBefore } from '@gremium/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Checkbox } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { call } from '../api';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Problems, useSentence } from '../ui/problems';
import { useStart } from './acts';
import { Effects, holdsFrom } from './checks';
import { ConcernedLines } from './concerned';
import { keptMovements } from './kept-movements';
import { de, en } from './movement-words';
import { useSlipShowing } from './slip-showing';
import { SlipValues } from './slip-values';
import { useSlipOf } from './slips';

const KEY = 'movement-sheets';

/** The sheet of a movement, and what can be done with it. */
export const MovementSheet = ({ id }: { id: number }) => {
  const { t } = useTranslation();
  const found = useQuery({
    queryKey: [KEY, id],
    queryFn: () => call(onTheirWayEndpoints.movementSheet, { params: { id } }),
    retry: false,
  });
  if (found.error)
    return (
      <main className="record">
        <Problems of={found.error} />
      </main>
    );
  if (!found.data) return <main className="record waiting">{t('waiting')}</main>;
  return <Opened sheet={found.data} />;
};

const Opened = ({ sheet }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const { i18n } = useTranslation();
  const format = useFormat();
  const { line, undoneBy } = sheet;
  const name = movementOf(line.kind).name[i18n.language === 'de' ? 'de' : 'en'];
  const tone = {
    late: 'brick',
    to_say: 'indigo',
    conditions_open: 'ochre',
    preparation: 'soft',
    recorded: 'moss',
    undone: 'soft',
  };
  return (
    <main className="record movement">
      <header className="recordhead">
        <p className="soft">
          {name} · M-{line.id} · <span className={tone[line.standing]}>{words.standings[line.standing]}</span>
          {undoneBy !== null && <> · {words.undoneBy(undoneBy)}</>}
        </p>
        <div className="title">
          <h1>{line.whom ?? line.about?.name ?? words.hidden}</h1>
        </div>
        {line.whom && <p className="serif">{line.about?.name ?? words.hidden}</p>}
        <p className="soft">
          {line.day && <>{format.day(line.day)} · </>}
          {words.by(line.requester)} · {format.recently(line.keptAt)}
        </p>
        <Acts sheet={sheet} />
      </header>
      <div className="recordbody">
        {line.standing === 'preparation' && !line.isMine && (
          <section className="block">
            <p>{words.draftOf(line.requester)}</p>
          </section>
        )}
        <SayingsPart sheet={sheet} />
        <ConditionsPart sheet={sheet} />
        <Against sheet={sheet} />
        <Values sheet={sheet} />
        <Story sheet={sheet} />
      </div>
    </main>
  );
};

/** Calls that turn a movement; what is read of it is asked again, also where somebody was quicker. */
const useTurn = <T,>(send: (sent: T) => Promise<unknown>) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSettled: () => queries.invalidateQueries({ queryKey: [KEY] }),
  });
};

const Acts = ({ sheet }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const to = useTo();
  const set = useSetParams();
  const may = useMay();
  const { line, revision, undoneBy } = sheet;
  const [kind, id] = [line.aboutKind as 'person', line.aboutId];
  const params = { id: line.id };
  const over = useTurn(async () => {
    await call(onTheirWayEndpoints.takeOver, { params, body: { revision } });
    await keptMovements.reload();
  });
  const backward = useTurn(async () => {
    await call(onTheirWayEndpoints.takeBack, { params, body: { revision } });
    await keptMovements.reload();
  });
  const isOpen = line.standing === 'preparation' || line.standing === 'conditions_open';
  return (
    <>
      <div className="acts">
        {line.standing === 'preparation' && line.isMine && line.about && (
          <Link to={to(pathOf(kind, id), { slip: line.key })}>{words.continue}</Link>
        )}
        {isOpen && !line.isMine && sheet.may && (
          <Button loading={over.isPending} onClick={() => over.mutate(undefined)}>
            {words.takeOver}
          </Button>
        )}
        {line.standing === 'conditions_open' && line.isMine && (
          <Button loading={backward.isPending} onClick={() => backward.mutate(undefined)}>
            {words.takeBack}
          </Button>
        )}
        {line.about && hasRecord(kind) && <Link to={to(pathOf(kind, id))}>{words.openRecord}</Link>}
        <button type="button" className="textact" onClick={() => window.print()}>
          {words.print}
        </button>
        {line.entry !== null && undoneBy === null && may.act('undo') && (
          <button
            type="button"
            className="textact"
            onClick={() => set({ undo: String(line.entry), slip: null })}
          >
            {words.undo}
          </button>
        )}
      </div>
      <Problems of={over.error ?? backward.error} />
    </>
  );
};

const SayingsPart = ({ sheet }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const { sayings, undoneBy } = sheet;
  if (sayings.length === 0 || undoneBy !== null) return null;
  return (
    <section className="block">
      <h2>{words.sayNow}</h2>
      {sayings.map((saying) => (
        <OneSaying key={saying.what} {...{ sheet, saying }} />
      ))}
    </section>
  );
};

const OneSaying = ({ sheet, saying }: { sheet: Sheet; saying: SayingOut }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const { today } = useLens();
  const { line, revision } = sheet;
  const { what, planned, said, saidAt, saidBy } = saying;
  const say = useTurn((day?: Day) =>
    call(onTheirWayEndpoints.sayMovement, {
      params: { id: line.id },
      body: { what, revision, ...(day ? { day } : {}) },
    }),
  );
  const isAhead = isBefore(today, planned);
  return (
    <div className="saying">
      <span className={said === null && isBefore(planned, today) ? 'brick' : undefined}>
        {said === null ? (isBefore(planned, today) ? '! ' : '') : '✓ '}
        {words.sayings[what]}
      </span>
      <span className="soft">
        {said === null
          ? words.planned(format.day(planned))
          : words.said(format.day(said), saidBy ?? '–', saidAt ? format.recently(saidAt) : '–')}
      </span>
      {said === null && sheet.may && (
        <span className="rowacts">
          {isAhead ? (
            <span className="soft">{words.notYet}</span>
          ) : (
            <Button size="small" loading={say.isPending} onClick={() => say.mutate(undefined)}>
              {words.asPlanned(words.sayings[what], format.day(planned))}
            </Button>
          )}
          <Otherwise {...{ sheet, saying }} />
        </span>
      )}
      <Problems of={say.error} />
    </div>
  );
};

// What did not happen as planned: each by its own act, where the register follows.
const Otherwise = ({ sheet, saying }: { sheet: Sheet; saying: SayingOut }) => {
  const words = useWords({ en, de });
  const { today } = useLens();
  const start = useStart();
  const set = useSetParams();
  const { line, result } = sheet;
  const { what, placementId, planned } = saying;
  if (placementId === null || !line.about) return null;
  const about = { ...line.about, kind: line.aboutKind as 'person' };
  const from = isBefore(today, planned) ? today : planned;
  const isHire = line.kind === 'hire' || line.kind === 'rehire';
  const otherwise = () => {
    if (what === 'back') return start('back', about, { placementId }, from);
    return start('started', about, { placementId }, from);
  };
  // before the first day nothing has begun: it is taken back; from it on somebody was employed
  const didNotCome = () => {
    if (isBefore(today, planned) || !isHire) return set({ undo: String(line.entry), slip: null });
    const employmentId = result?.employmentId;
    if (employmentId) start('leave', about, { employmentId }, planned);
  };
  return (
    <>
      {what !== 'left' && !isHire && (
        <button type="button" className="textact" onClick={otherwise}>
          {words.otherDay}
        </button>
      )}
      {what === 'started' && (
        <button type="button" className="textact" onClick={didNotCome}>
          {words.didNotCome}
        </button>
      )}
    </>
  );
};

const ConditionsPart = ({ sheet }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const sentence = useSentence();
  const { line, revision, conditions } = sheet;
  const turn = useTurn(({ place, met }: { place: number; met: boolean }) =>
    call(onTheirWayEndpoints.tickCondition, { params: { id: line.id }, body: { place, met, revision } }),
  );
  if (conditions.length === 0) return null;
  const isOpen = line.standing === 'conditions_open';
  const came = turn.data as ReplyOf<typeof onTheirWayEndpoints.tickCondition> | undefined;
  return (
    <section className="block">
      <h2>{words.conditions}</h2>
      {conditions.map(({ place, line: text, metAt, metBy }) => (
        <div className="saying" key={place}>
          <Checkbox
            checked={metAt !== null}
            disabled={!isOpen || !sheet.may || turn.isPending}
            onChange={(event) => turn.mutate({ place, met: event.target.checked })}
          >
            {text}
          </Checkbox>
          <span className="soft">{metAt && metBy ? words.metBy(metBy, format.recently(metAt)) : ''}</span>
        </div>
      ))}
      {isOpen && <p className="soft">{words.lastTick}</p>}
      {came?.entry && <p className="moss">✓ {words.recordedNow(came.entry)}</p>}
      {came?.problems.map((problem, i) => (
        <p className="brick" key={i}>
          ! {sentence(problem)}
        </p>
      ))}
      <Problems of={turn.error} />
    </section>
  );
};

const Against = ({ sheet: { problems, line } }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const sentence = useSentence();
  if (problems.length === 0 || line.standing !== 'conditions_open') return null;
  return (
    <section className="block">
      <h2>{words.against}</h2>
      {[...new Set(problems.map(sentence))].map((text) => (
        <p className="brick" key={text}>
          ! {text}
        </p>
      ))}
    </section>
  );
};

const Values = ({ sheet: { result, line } }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const { i18n } = useTranslation();
  const declared = useSlipOf(line.kind);
  const places = (result?.slip ?? []).flatMap(({ field, before, after }) =>
    field === 'positionId' ? [before, after] : [],
  );
  const showing = useSlipShowing({ positions: places });
  if (!result || !declared || !showing || result.slip.length === 0) return null;
  const own = i18n.language === 'de' ? declared.de : declared.en;
  return (
    <section className="block">
      <h2>{result.entry === null ? words.valuesWaiting : words.values}</h2>
      <SlipValues
        moved={result}
        showing={showing}
        words={own}
        hasBefore={declared.hasBefore === true}
        returns={declared.returns === true}
      />
      {result.concerned && result.concerned.count > 0 && (
        <ConcernedLines of={result.concerned} showing={showing} />
      )}
      {line.day && <Effects effects={result.effects} day={holdsFrom(line.kind, line.day)} />}
    </section>
  );
};

const Story = ({ sheet: { acts } }: { sheet: Sheet }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const to = useTo();
  if (acts.length === 0) return null;
  return (
    <section className="block">
      <h2>{words.story}</h2>
      <ol className="story">
        {acts.map(({ at, by, act, day, word, entry }, i) => (
          <li key={i}>
            <span className="soft">{format.moment(at)}</span> {by}: {words.acts[act]}
            {act === 'taken_over' || act.startsWith('condition') ? ` ${word ?? ''}` : ''}
            {day && `, ${format.day(day)}`}
            {word && act !== 'taken_over' && !act.startsWith('condition') && act !== 'sent_back' && (
              <i> “{word}”</i>
            )}
            {entry !== null && (
              <>
                {' · '}
                <Link to={to(`/setup/journal/${entry}`)}>{words.entry(entry)}</Link>
              </>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
};
