import { type Day, type MovementKind, type Problem, type Words, movementOf } from '@gremium/contract';
import { addDays } from '@gremium/core';
import { Input } from 'antd';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { useSentence } from '../ui/problems';

const GROUPS: Record<string, Problem['code'][]> = {
  place: [
    'place_taken',
    'fte_taken',
    'position_not_in_force',
    'hires_need_position',
    'limit_lowered',
    'limit_lowered_fte',
  ],
  person: ['person_employed', 'employment_overlap', 'birth_date_unlikely', 'same_position'],
  share: ['share_above_one', 'share_too_high', 'placement_one_primary', 'placement_none'],
  hours: ['share_range'],
  range: ['pay_outside_range'],
  currency: ['pay_currency'],
  pay: ['pay_not_positive', 'pay_jump', 'pay_unlikely'],
  contact: ['contact_form'],
  twins: ['twin_email', 'twin_birth', 'twin_returns'],
  line: ['reporting_ring', 'unit_has_sub_units'],
};

/** What the checks say: errors stop, a warning brings the line for the word it needs, passed ones are one sentence. */
export const Checks = ({
  problems,
  looked,
  words,
  onWord,
  part,
}: {
  problems: readonly Problem[];
  /** What was looked at: of nothing else it is said that it passed. */
  looked: readonly string[];
  words: Words;
  onWord: (code: Problem['code'], word: string) => void;
  /** What stops stands apart from the notes and from what passed; left out: all of it. */
  part?: 'stopping' | 'passed';
}) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  const id = useId();
  const codes = new Set(problems.map(({ code }) => code));
  const passed = Object.keys(GROUPS).filter(
    (group) => looked.includes(group) && !GROUPS[group]?.some((code) => codes.has(code)),
  );
  const shown = problems.filter(
    ({ code, severity }) => code !== 'word_missing' && (part !== 'passed' || severity === 'note'),
  );
  return (
    <div className="checks" aria-live="polite">
      {alike(shown).map(({ problem, others }) => (
        <div key={`${problem.code}${problem.field ?? ''}`} className={`check ${problem.severity}`}>
          <span className="box" aria-hidden>
            !
          </span>
          <div>
            <span className="hidden">{t(`severity.${problem.severity}`)}: </span>
            {sentence(problem)}
            {others.slice(0, FEW_ALIKE).map((other, i) => (
              <div key={i}>{sentence(other)}</div>
            ))}
            {others.length > FEW_ALIKE && (
              <div className="soft">{t('slip.moreAlike', { count: others.length - FEW_ALIKE })}</div>
            )}
            {problem.severity === 'warning' && (
              <Input
                id={`${id}${problem.code}`}
                className="word"
                variant="underlined"
                aria-label={t('slip.word')}
                placeholder={t('slip.word')}
                value={words[problem.code] ?? ''}
                onChange={(event) => onWord(problem.code, event.target.value)}
              />
            )}
          </div>
        </div>
      ))}
      {passed.length > 0 && (
        <div className="check passed">
          <span className="box" aria-hidden>
            ✓
          </span>
          <div>
            {t('slip.passed', {
              what: passed.map((group) => t(`slip.group.${group as 'place'}`)).join(', '),
            })}
          </div>
        </div>
      )}
    </div>
  );
};

// Of one code there may be hundreds: one word answers all of them, so they stand together.
const FEW_ALIKE = 2;

const alike = (problems: readonly Problem[]): { problem: Problem; others: Problem[] }[] => {
  const groups = new Map<string, { problem: Problem; others: Problem[] }>();
  for (const problem of problems) {
    const key = `${problem.code} ${problem.severity === 'warning' ? '' : (problem.field ?? '')}`;
    const group = groups.get(key);
    if (group) group.others.push(problem);
    else groups.set(key, { problem, others: [] });
  }
  return [...groups.values()];
};

/** The first day on which a movement holds: the day after, where its day is a last one. */
export const holdsFrom = (kind: MovementKind, day: Day): Day =>
  movementOf(kind).day.isLast ? addDays(day, 1) : day;

/** What the movement does beside its values. */
export const Effects = ({ effects, day }: { effects: readonly Problem[]; day: Day }) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  const format = useFormat();
  if (effects.length === 0) return null;
  return (
    <div className="effects">
      <h3>{t('slip.effects', { day: format.day(day) })}</h3>
      <ul>
        {[...new Set(effects.map(sentence))].map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
};
