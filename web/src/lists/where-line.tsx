import '../reports/reports.css';
import type { ReportFieldOut, SectionName } from '@gremium/contract';
import { ConditionError, type ConditionPart, type Operand, simpleOf } from '@gremium/core';
import { Popover } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { ConditionEditor } from '../reports/condition-editor';
import { byId } from '../reports/definition';
import { reportWords } from '../reports/report-words';
import { useReportChoices, useReportFields } from '../reports/reports.queries';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { later } from '../under-way';
import { listViewWords } from './list-view-words';

const partsOf = (text: string) => {
  try {
    return simpleOf(text);
  } catch (error) {
    if (error instanceof ConditionError) return null;
    throw error;
  }
};

const SAID_AFTER = 200;

type WhereProps = { subject: SectionName; where: string; onChange: (text: string) => void };

/** The part of a list's sentence that may name any field: what it says, and the form that says it. */
export const WhereLine = ({ subject, where, onChange }: WhereProps) => {
  const words = useWords(listViewWords);
  const [isOpen, setOpen] = useState(false);
  // what is said stands here at once; the address, and the list, follow a moment later
  const [text, setText] = useState(where);
  const callOff = useRef<() => void>(undefined);
  useEffect(() => {
    if (callOff.current === undefined) setText(where);
  }, [where]);
  const say = (next: string) => {
    setText(next);
    callOff.current?.();
    callOff.current = later(SAID_AFTER, () => {
      callOff.current = undefined;
      onChange(next);
    });
  };
  const fields = useReportFields(isOpen || where !== '' ? subject : undefined).data?.fields ?? [];
  return (
    <>
      <Popover
        trigger="click"
        open={isOpen}
        onOpenChange={setOpen}
        placement="bottomLeft"
        destroyOnHidden
        content={
          <div className="whereform">
            <ConditionEditor fields={fields} subject={subject} text={text} onChange={say} />
            <button type="button" className="textact" onClick={() => setOpen(false)}>
              {words.done}
            </button>
          </div>
        }
      >
        <button type="button" className="pick" title={words.addWhere}>
          {where === '' ? words.where : <ConditionSaid {...{ subject, fields, text: where }} />}
        </button>
      </Popover>{' '}
      {where !== '' && (
        <button type="button" className="textact" onClick={() => onChange('')}>
          {words.clear}
        </button>
      )}
    </>
  );
};

type SaidProps = { subject: string; fields: readonly ReportFieldOut[]; text: string };

/** A condition read aloud: field, comparison, value, joined by and or by or. */
export const ConditionSaid = ({ subject, fields, text }: SaidProps) => {
  const words = useWords(listViewWords);
  const simple = partsOf(text);
  if (!simple) return <>{words.whereIs(words.asText)}</>;
  const known = byId(fields);
  return (
    <>
      {words.whereIs('')}
      {simple.parts.map((part, i) => (
        <span key={`${i} ${part.field}`}>
          {i > 0 && (simple.all ? words.and : words.or)}
          <PartSaid {...{ subject, part }} field={known.get(part.field)} />
        </span>
      ))}
    </>
  );
};

const PartSaid = ({
  subject,
  part,
  field,
}: {
  subject: string;
  part: ConditionPart;
  field: ReportFieldOut | undefined;
}) => {
  const words = useWords(reportWords);
  const choices = useReportChoices(subject, field);
  const say = useSaidOperand();
  const by =
    (field?.kind === 'day'
      ? (words.dayComparisons as Partial<Record<ConditionPart['by'], string>>)[part.by]
      : undefined) ?? words.comparisons[part.by];
  const named = (value: Operand): string =>
    field?.options?.find((option) => option.value === value)?.label ??
    choices.data?.choices.find(({ code }) => code === value)?.label ??
    say(value);
  return (
    <>
      {field?.label ?? part.field} {by} {part.values.map(named).join(', ')}
    </>
  );
};

const useSaidOperand = () => {
  const words = useWords(listViewWords);
  const report = useWords(reportWords);
  const format = useFormat();
  return (value: Operand): string => {
    if (typeof value === 'boolean') return value ? report.yes : report.no;
    if (typeof value === 'number')
      return Number.isInteger(value) ? format.number(value) : format.amount(String(value));
    if (typeof value === 'string') return value;
    const [, base, days] = /^(on|today)([+-]\d+)?$/.exec(value.day) ?? [];
    if (!base) return format.day(value.day);
    if (!days) return base === 'on' ? words.on : words.today;
    const shown = format.number(Math.abs(Number(days)));
    return days.startsWith('-') ? words.earlier(shown) : words.later(shown);
  };
};
