import { type ConcernedOut, type Day, type Kind, type Problem, movementOf } from '@gremium/contract';
import { Button } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens, useSetParams } from '../frame/lens';
import { useFormat } from '../texts/format';
import { Checks, Effects, holdsFrom } from './checks';
import { CompletedBefore, useNextAlike } from './next-alike';
import { ConcernedLines } from './concerned';
import { Conflicts } from './conflicts';
import { RoomElsewhere, isFull } from './room-elsewhere';
import { type LocalMovement, keptMovements } from './kept-movements';
import type { SlipDeclaration, SlipRow } from './slip-declared';
import { SlipConditions, SlipWaits } from './slip-conditions';
import { SlipField } from './slip-field';
import { SlipInput } from './slip-input';
import { SlipResult } from './slip-result';
import { SlipValues } from './slip-values';
import { useMovement } from './use-movement';
import { type Slip, useSlip } from './use-slip';

type SlipProps = { movement: LocalMovement; declared: SlipDeclaration };

/** The slip of a movement: fields, before and after with sources, checks, effects, and the act pinned at its foot. */
export const MovementSlip = ({ movement, declared }: SlipProps) => {
  const { t } = useTranslation();
  const slip = useSlip(movement, declared);
  const { input, problems } = slip.asked;
  const asking = input ? { kind: movement.kind, input } : null;
  const moving = useMovement(movement.key, asking, { words: slip.said, conditions: slip.conditions });
  const { context } = slip;
  const [isNext, setNext] = useState(false);
  if (!context) return <p className="waiting">{t('waiting')}</p>;
  if (moving.done?.isWaiting)
    return <SlipWaits title={declared.title(context)} conditions={slip.conditions} />;
  if (moving.done && isNext) return null;
  if (moving.done)
    return (
      <SlipResult
        moved={moving.done}
        title={declared.title(context)}
        day={context.day}
        words={slip.words}
        showing={context.showing}
        hasBefore={declared.hasBefore === true}
        returns={declared.returns === true}
        undoneBy={null}
      />
    );
  return <Preparing {...{ slip, moving, setNext }} isAsked={asking !== null} unfit={problems} />;
};

type PreparingProps = {
  slip: Slip;
  moving: ReturnType<typeof useMovement>;
  isAsked: boolean;
  /** What does not fit its field. */
  unfit: readonly Problem[];
  /** Whether the next one alike is begun once this is complete. */
  setNext: (isNext: boolean) => void;
};

// What may be done with what was found, and why not.
const judged = ({ slip, moving, isAsked, unfit }: Omit<PreparingProps, 'setNext'>, known: string | null) => {
  const { hidden = [] } = slip.declared;
  // what nothing gives is still needed, not wrong
  const asked = moving.problems.flatMap(({ code, field }) =>
    code === 'value_missing' && field ? [field] : [],
  );
  const conflicts = moving.problems.filter(({ code }) => code === 'movement_conflict');
  const shown = [...unfit, ...moving.problems].filter(
    ({ code, field }) =>
      code !== 'movement_conflict' &&
      !(code === 'value_missing' && field) &&
      !(slip.missing.length > 0 && hidden.includes(code)),
  );
  // words may stand beside it, and a conflict is to be looked at: neither stops a second try
  const stops = shown.some(({ severity, code }) => severity === 'error' && code !== 'word_missing');
  const unsaid = shown.some(({ severity, code }) => severity === 'warning' && !slip.said[code]?.trim());
  return {
    conflicts,
    shown,
    asked,
    missing: [...new Set([...slip.missing, ...asked.map(slip.labelOf)])],
    stops,
    unsaid,
    mayComplete: isAsked && slip.missing.length === 0 && asked.length === 0 && !stops && !unsaid && !known,
  };
};

const Preparing = (props: PreparingProps) => {
  const { slip, moving, isAsked, setNext } = props;
  const goOn = useNextAlike(slip);
  const { known } = useLens();
  const judgement = judged(props, known);
  const context = slip.context as NonNullable<Slip['context']>;
  const { preview } = moving;
  const stopping = judgement.shown.filter(({ severity }) => severity !== 'note');
  const complete = (isNext: boolean) => {
    // also before its checks have come: they are made again, and nothing is written that does not pass them
    if (!judgement.mayComplete) return;
    setNext(isNext);
    moving.complete(isNext ? goOn : undefined);
  };
  return (
    <>
      <SlipHead slip={slip} />
      <form
        className="slipform"
        id="slip"
        onKeyDown={keepEnter}
        onSubmit={(event) => {
          event.preventDefault();
          complete(false);
        }}
      >
        <div className={bodyClass(slip)}>
          {preview && preview.slip.length > 0 && slip.declared.picture && (
            <slip.declared.picture moved={preview} context={context} />
          )}
          <div>
            <Rows rows={slip.rows} slip={slip} />
            {slip.more.length > 0 && (
              <details open={slip.more.flat().some((path) => judgement.asked.includes(path)) || undefined}>
                <summary>{slip.words.more}</summary>
                <Rows rows={slip.more} slip={slip} />
              </details>
            )}
            <SlipConditions slip={slip} />
            <Conflicts conflicts={judgement.conflicts} showing={context.showing} />
          </div>
          <div>
            {preview && preview.slip.length > 0 && (
              <SlipValues
                returns={slip.declared.returns === true}
                moved={preview}
                showing={context.showing}
                words={slip.words}
                hasBefore={slip.declared.hasBefore === true}
              />
            )}
            {preview?.concerned && (
              <ConcernedLines of={preview.concerned} showing={context.showing} {...turning(slip)} />
            )}
            {isAsked && (
              <Checks
                problems={judgement.shown}
                part="passed"
                looked={preview?.looked ?? []}
                words={slip.said}
                onWord={slip.saySo}
              />
            )}
            {preview && context.day && !judgement.stops && (
              <Effects effects={preview.effects} day={holdsFrom(slip.movement.kind, context.day)} />
            )}
          </div>
        </div>
        {stopping.length > 0 && (
          <div className="slipstops">
            <Checks problems={stopping} looked={[]} words={slip.said} onWord={slip.saySo} part="stopping" />
            {stopping.filter(isFull).map((problem) => (
              <RoomElsewhere key={problem.code} {...{ slip, problem }} />
            ))}
          </div>
        )}
      </form>
      <SlipFoot {...{ slip, moving, judgement, complete }} />
    </>
  );
};

type Of = { kind: Kind; id: number };

// A list of ids in the input says for whom it is decided otherwise.
const turning = (slip: Slip) => {
  const { exceptions } = slip.declared;
  if (!exceptions) return {};
  const { path, word } = exceptions;
  const pathOf = (kind: Kind): string => (typeof path === 'string' ? path : (path[kind] ?? ''));
  const idsOf = (kind: Kind) => (slip.movement.input[pathOf(kind)] as number[] | undefined) ?? [];
  return {
    turn: {
      word: (line: ConcernedOut) =>
        word(idsOf(line.kind).includes(line.id), slip.context as NonNullable<Slip['context']>, line),
      set: ({ kind, id }: Of) => {
        const ids = idsOf(kind);
        slip.put(pathOf(kind), ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id]);
      },
    },
  };
};

// So many fields, and they stand beside what comes of them.
const MUCH = 9;
const isMuch = ({ rows, more }: Slip): boolean => [...rows, ...more].flat().length >= MUCH;

// Three columns of values want more room than two.
const bodyClass = (slip: Slip): string =>
  ['slipbody', ...(isMuch(slip) ? ['much'] : []), ...(slip.declared.returns ? ['returns'] : [])].join(' ');

const SlipHead = ({ slip: { movement, declared, context } }: { slip: Slip }) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const { keptAt, refused, kind, isOpened } = movement;
  const waiting = isOpened ? '' : t('draft.keeping');
  const kept = keptAt ? t('draft.kept', { at: format.recently(keptAt) }) : waiting;
  const { name } = movementOf(kind);
  return (
    <header className="sliphead">
      <div className="kind">
        <span>{i18n.language === 'de' ? name.de : name.en}</span>
        <span className="soft">{refused ? t('draft.notKept') : kept}</span>
      </div>
      <h2>{context && declared.title(context)}</h2>
      <p className="soft">{context && declared.lead(context)}</p>
      <CompletedBefore slipKey={movement.key} />
    </header>
  );
};

const Rows = ({ rows, slip }: { rows: readonly SlipRow[]; slip: Slip }) => (
  <>
    {rows.map((row) =>
      typeof row === 'string' ? (
        <OneField key={row} path={row} slip={slip} />
      ) : (
        <div className="pair" key={row.join()}>
          {row.map((path) => (
            <OneField key={path} path={path} slip={slip} />
          ))}
        </div>
      ),
    )}
  </>
);

const OneField = ({ path, slip }: { path: string; slip: Slip }) => {
  const { t } = useTranslation();
  const { on, isToday } = useLens();
  const { movement, declared, context, words } = slip;
  const id = `${movement.key}-${path.replaceAll('.', '-')}`;
  const label = slip.labelOf(path);
  const isDay = path === movementOf(movement.kind).day.field;
  const fromLens = isDay && !isToday && context?.day === on ? t('source.lens') : null;
  const source = fromLens ?? (context && declared.note?.(path, context)) ?? words.notes?.[path];
  const isTyped = slip.typedOf(path) !== undefined && slip.typedOf(path) !== '';
  return (
    <SlipField id={id} label={label} source={isTyped ? null : source}>
      <SlipInput {...{ id, path, slip, label }} field={slip.fieldOf(path)} />
    </SlipField>
  );
};

type FootProps = Pick<PreparingProps, 'slip' | 'moving'> & {
  judgement: ReturnType<typeof judged>;
  complete: (isNext: boolean) => void;
};

const SlipFoot = ({ slip, moving, judgement, complete }: FootProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const set = useSetParams();
  const { known } = useLens();
  const { mayComplete, stops, unsaid, missing } = judgement;
  const { context, words, movement } = slip;
  const day: Day | undefined = context?.day;
  const waits = slip.conditions.length;
  const sentence = movementOf(movement.kind).day.isLast ? 'slip.lastDayIs' : 'slip.from';
  return (
    <footer className="slipfoot">
      {missing.length > 0 && <p className="soft">{t('slip.missing', { what: missing.join(', ') })}</p>}
      {known && <p className="ochre">! {t('lens.pastOnly')}</p>}
      {mayComplete && (
        <p className="soft">{waits > 0 ? t('slip.waitsFor', { count: waits }) : t('slip.noRoute')}</p>
      )}
      {unsaid && !stops && <p className="ochre">! {t('slip.unsaid')}</p>}
      <div className="acts">
        <Button
          type="primary"
          htmlType="submit"
          form="slip"
          disabled={!mayComplete}
          loading={moving.isPending}
        >
          {waits > 0
            ? t('slip.handIn')
            : day
              ? t(sentence, { act: words.submit, day: format.day(day) })
              : words.submit}
        </Button>
        {slip.declared.alike && waits === 0 && (
          <Button disabled={!mayComplete || moving.isPending} onClick={() => complete(true)}>
            {t('slip.andNext')}
          </Button>
        )}
        <Button
          type="text"
          onClick={() => {
            if (movement.isOpened) keptMovements.keep(movement);
            set({ slip: null });
          }}
        >
          {t('slip.keep')}
        </Button>
        <Button
          type="text"
          onClick={() => {
            set({ slip: null });
            void keptMovements.discard(movement.key);
          }}
        >
          {t('slip.discard')}
        </Button>
      </div>
    </footer>
  );
};

// Enter in a picker or an open list confirms what is chosen there, and nothing else: only a plain field completes the slip.
const keepEnter = (event: React.KeyboardEvent): void => {
  if (event.key === 'Enter' && (event.target as Element).closest('.ant-select')) event.preventDefault();
};
