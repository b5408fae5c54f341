import type { Day, Problem, SlipValue } from '@gremium/contract';
import type { Register } from '@gremium/core';
import { Input } from 'antd';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { Choice, listOptions } from '../ui/field-input';
import { type Showing, labelIn } from '../ui/field-value';
import { useSentence } from '../ui/problems';

/** A field of a slip: label, input, and where its value came from. */
export const SlipField = ({
  id,
  label,
  source,
  children,
}: {
  id: string;
  label: string;
  source?: string | null | undefined;
  children: React.ReactNode;
}) => (
  <div className="slipfield">
    <label htmlFor={id}>{label}</label>
    {children}
    {source && <div className="source">{source}</div>}
  </div>
);

/** Why: reasons kept for an act, in words. */
export const ReasonField = ({
  id,
  act,
  register,
  on,
  value,
  onChange,
}: {
  id: string;
  act: 'hire' | 'transfer';
  register: Register;
  on: Day;
  value: number | null;
  onChange: (reason: number | null) => void;
}) => {
  const { t, i18n } = useTranslation();
  return (
    <SlipField id={id} label={t('field.reasonId')}>
      <Choice
        id={id}
        label={t('field.reasonId')}
        value={value}
        onChange={(reason) => onChange(reason as number | null)}
        options={listOptions(register, 'reason', {
          on,
          language: i18n.language,
          fits: ({ flags }) => flags.acts?.includes(act) ?? false,
        })}
      />
    </SlipField>
  );
};

const FOLDED = ['jobId', 'locationId', 'workerTypeId', 'fullTime'];

const useShowValue = ({ register }: Showing) => {
  const { i18n } = useTranslation();
  const format = useFormat();
  return (field: string, value: SlipValue['after'], name: string | undefined): string => {
    if (value === null) return '–';
    if (field === 'hours' || field === 'fullTime') return format.hundredths(Number(value));
    if (field === 'workerTypeId') return labelIn(register, Number(value), i18n.language);
    return name ?? '–';
  };
};

/** Values before and after, each with its source; what follows from the position is folded away. */
export const BeforeAfter = ({
  slip,
  showing,
  hasBefore,
}: {
  slip: readonly SlipValue[];
  showing: Showing;
  hasBefore: boolean;
}) => {
  const { t } = useTranslation();
  const show = useShowValue(showing);
  const row = (value: SlipValue) => {
    const isSame = hasBefore && value.before === value.after;
    return (
      <tr key={value.field} className={isSame ? 'same' : undefined}>
        <th scope="row">{t(`field.${value.field as keyof Texts['field']}`)}</th>
        {hasBefore && <td>{show(value.field, value.before, value.beforeName)}</td>}
        <td className="after">
          {show(value.field, value.after, value.afterName)}
          {!isSame && <div className="source">{t(`source.${value.source}`)}</div>}
        </td>
      </tr>
    );
  };
  const [main, folded] = [
    slip.filter(({ field }) => !FOLDED.includes(field)),
    slip.filter(({ field }) => FOLDED.includes(field)),
  ];
  return (
    <>
      <table className="beforeafter slipvalues">
        <thead>
          <tr>
            <th scope="col">
              <span className="hidden">{t('edit.field')}</span>
            </th>
            {hasBefore && <th scope="col">{t('slip.before')}</th>}
            <th scope="col">{t('slip.after')}</th>
          </tr>
        </thead>
        <tbody>{main.map(row)}</tbody>
      </table>
      {folded.length > 0 && (
        <details>
          <summary>
            {t('slip.follows', {
              fields: folded.map(({ field }) => t(`field.${field as keyof Texts['field']}`)).join(', '),
            })}
          </summary>
          <table className="beforeafter slipvalues">
            <tbody>{folded.map(row)}</tbody>
          </table>
        </details>
      )}
    </>
  );
};

export type Words = Partial<Record<Problem['code'], string>>;

const GROUPS: Record<string, Problem['code'][]> = {
  place: ['place_taken', 'fte_taken', 'position_not_in_force', 'hires_need_position', 'limit_lowered'],
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
}: {
  problems: readonly Problem[];
  /** What was looked at: of nothing else it is said that it passed. */
  looked: readonly string[];
  words: Words;
  onWord: (code: Problem['code'], word: string) => void;
}) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  const id = useId();
  const codes = new Set(problems.map(({ code }) => code));
  const passed = Object.keys(GROUPS).filter(
    (group) => looked.includes(group) && !GROUPS[group]?.some((code) => codes.has(code)),
  );
  const shown = problems.filter(({ code }) => code !== 'word_missing');
  return (
    <div className="checks" aria-live="polite">
      {shown.map((problem) => (
        <div key={`${problem.code}${problem.field ?? ''}`} className={`check ${problem.severity}`}>
          <span className="box" aria-hidden>
            !
          </span>
          <div>
            <span className="hidden">{t(`severity.${problem.severity}`)}: </span>
            {sentence(problem)}
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
