import type { ReportFieldOut } from '@gremium/contract';
import type { Comparison, ConditionPart, Operand } from '@gremium/core';
import { readNumber, groupingOf } from '@gremium/core';
import { Input, Select } from 'antd';
import { useState } from 'react';
import { useReading } from '../texts/format';
import { useWords } from '../texts/words';
import { DayInput, isDay } from '../ui/day-input';
import { Choice } from '../ui/field-input';
import { reportWords } from './report-words';
import { useReportChoices } from './reports.queries';

type RowProps = {
  part: ConditionPart;
  at: number;
  field: ReportFieldOut | undefined;
  fields: readonly ReportFieldOut[];
  subject: string;
  onChange: (part: ConditionPart) => void;
  onDrop: () => void;
};

const isNumeric = (field: ReportFieldOut | undefined): boolean =>
  field?.kind === 'number' || field?.kind === 'hundredths' || field?.kind === 'exact';

const comparisonsOf = (field: ReportFieldOut | undefined): Comparison[] => {
  if (field?.kind === 'yes_no') return ['is', 'blank', 'given'];
  if (isNumeric(field)) return ['is', 'is_not', 'above', 'from', 'below', 'to', 'blank', 'given'];
  if (field?.kind === 'day') return ['is', 'below', 'to', 'above', 'from', 'blank', 'given'];
  if (field?.kind === 'text') return ['contains', 'is', 'is_not', 'blank', 'given'];
  return ['one_of', 'is', 'is_not', 'blank', 'given'];
};

/** The comparison that a new part begins with: of the first field, without a value yet. */
export const freshPart = (fields: readonly ReportFieldOut[]): ConditionPart => {
  const [first] = fields;
  return { field: first?.id ?? '', by: comparisonsOf(first)[0] as Comparison, values: [] };
};

/** One comparison: field, how, with what; a value that is missing leaves it out of the condition until it is there. */
export const ConditionPartRow = ({ part, at, field, fields, subject, onChange, onDrop }: RowProps) => {
  const words = useWords(reportWords);
  const isDay = field?.kind === 'day';
  const wordOf = (by: Comparison): string =>
    (isDay ? (words.dayComparisons as Partial<Record<Comparison, string>>)[by] : undefined) ??
    words.comparisons[by];
  const options = fields.map(({ id, label, group }) => ({ value: id, label: `${label} · ${group}` }));
  const hasValue = part.by !== 'blank' && part.by !== 'given';
  return (
    <>
      <Choice
        id={`condition-field-${at}`}
        label={`${words.field} ${at + 1}`}
        clearable={false}
        options={options}
        value={part.field}
        onChange={(id) => {
          const next = fields.find((one) => one.id === id);
          onChange({ field: String(id), by: comparisonsOf(next)[0] as Comparison, values: [] });
        }}
      />
      <Choice
        id={`condition-by-${at}`}
        label={`${words.by} ${at + 1}`}
        clearable={false}
        options={comparisonsOf(field).map((by) => ({ value: by, label: wordOf(by) }))}
        value={part.by}
        onChange={(by) =>
          onChange({
            ...part,
            by: by as Comparison,
            values: by === 'one_of' ? part.values : part.values.slice(0, 1),
          })
        }
      />
      {hasValue && (
        <ValueInput {...{ part, at, field, subject }} onValues={(values) => onChange({ ...part, values })} />
      )}
      {hasValue && part.values.length === 0 && <span className="source ochre">! {words.leftOut}</span>}
      <button
        type="button"
        className="textact"
        aria-label={words.dropCondition(field?.label ?? part.field)}
        onClick={onDrop}
      >
        ×
      </button>
    </>
  );
};

type ValueProps = Pick<RowProps, 'part' | 'at' | 'field' | 'subject'> & {
  onValues: (values: Operand[]) => void;
};

const ValueInput = ({ part, at, field, subject, onValues }: ValueProps) => {
  const words = useWords(reportWords);
  const label = `${words.value} ${at + 1}`;
  const choices = useReportChoices(subject, field);
  const [value] = part.values;
  if (field?.kind === 'yes_no')
    return (
      <Choice
        id={`condition-value-${at}`}
        label={label}
        clearable={false}
        options={[
          { value: 'yes', label: words.yes },
          { value: 'no', label: words.no },
        ]}
        value={value === undefined ? null : value ? 'yes' : 'no'}
        onChange={(chosen) => onValues([chosen === 'yes'])}
      />
    );
  if (field?.kind === 'day') return <DayValue {...{ at, label, value, onValues }} />;
  const options =
    field?.options ?? choices.data?.choices.map((one) => ({ value: one.code, label: one.label }));
  if (options)
    return (
      <Select
        id={`condition-value-${at}`}
        aria-label={label}
        className="line-input"
        variant="underlined"
        {...(part.by === 'one_of' ? { mode: 'multiple' as const } : {})}
        showSearch={{ optionFilterProp: 'label' }}
        options={options}
        value={part.by === 'one_of' ? (part.values as string[]) : ((value as string | undefined) ?? null)}
        onChange={(chosen: string | string[]) => onValues([chosen].flat())}
      />
    );
  return <TypedValue {...{ at, label, value, onValues }} isNumber={isNumeric(field)} />;
};

type TypedProps = {
  at: number | string;
  label: string;
  value: Operand | undefined;
  onValues: (values: Operand[]) => void;
};

// A number as people type it, or a text.
const TypedValue = ({ at, label, value, onValues, isNumber }: TypedProps & { isNumber: boolean }) => {
  const reading = useReading();
  const [typed, setTyped] = useState(value === undefined || typeof value === 'object' ? '' : String(value));
  return (
    <Input
      id={`condition-value-${at}`}
      aria-label={label}
      className="line-input"
      variant="underlined"
      value={typed}
      onChange={(event) => {
        const text = event.target.value;
        setTyped(text);
        if (!isNumber) return onValues(text === '' ? [] : [text]);
        const read = readNumber(text, groupingOf(reading));
        onValues('problem' in read || text.trim() === '' ? [] : [Number(read.value)]);
      }}
    />
  );
};

const RELATIVE = /^(on|today)(?:([+-]\d+))?$/;

/** A day, or the day looked at with days added. */
export const DayValue = ({ at, label, value, onValues }: TypedProps) => {
  const words = useWords(reportWords);
  const text = typeof value === 'object' ? value.day : undefined;
  const [, base, days = '0'] = RELATIVE.exec(text ?? '') ?? [];
  const isRelative = base !== undefined;
  return (
    <>
      <Choice
        id={`condition-when-${at}`}
        label={`${label}, ${words.theDay}`}
        clearable={false}
        options={[
          { value: 'on', label: words.theDay },
          { value: 'day', label: words.aDay },
        ]}
        value={text === undefined || !isRelative ? 'day' : 'on'}
        onChange={(kind) => onValues(kind === 'on' ? [{ day: 'on' }] : [])}
      />
      {isRelative ? (
        <>
          <Input
            id={`condition-value-${at}`}
            aria-label={`${label}, ${words.days}`}
            className="line-input short"
            variant="underlined"
            defaultValue={Number(days)}
            onChange={(event) => {
              const added = Number(event.target.value);
              if (Number.isInteger(added))
                onValues([{ day: added === 0 ? 'on' : `on${added > 0 ? '+' : ''}${added}` }]);
            }}
          />
          <span className="soft">{words.days}</span>
        </>
      ) : (
        <DayInput
          id={`condition-value-${at}`}
          label={label}
          value={text ?? null}
          onChange={(day) => onValues(isDay(day) ? [{ day }] : [])}
        />
      )}
    </>
  );
};
