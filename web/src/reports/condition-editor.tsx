import type { ReportFieldOut } from '@gremium/contract';
import { ConditionError, type Simple, simpleOf, simpleText } from '@gremium/core';
import { Input } from 'antd';
import { useState } from 'react';
import { useWords } from '../texts/words';
import { byId } from './definition';
import { ConditionPartRow, freshPart } from './condition-part';
import { reportWords } from './report-words';

type EditorProps = {
  fields: readonly ReportFieldOut[];
  subject: string;
  text: string;
  onChange: (text: string) => void;
};

const readSimple = (text: string): Simple | null => {
  try {
    return simpleOf(text);
  } catch (error) {
    if (error instanceof ConditionError) return null;
    throw error;
  }
};

/** A condition as picked comparisons, or as text: each is read as the other, as far as it goes. */
export const ConditionEditor = ({ fields, subject, text, onChange }: EditorProps) => {
  const words = useWords(reportWords);
  const [typed, setTyped] = useState<string | null>(null);
  // a comparison whose value is still to come stands here, not in the condition
  const [open, setOpen] = useState<Simple | null>(null);
  const read = readSimple(text);
  const simple = open ?? read;
  const isText = typed !== null || (text !== '' && read === null);
  const take = (next: Simple) => {
    const whole = next.parts.filter(
      ({ values, by }) => by === 'blank' || by === 'given' || values.length > 0,
    );
    setOpen(whole.length === next.parts.length ? null : next);
    onChange(simpleText({ ...next, parts: whole }));
  };
  if (isText)
    return (
      <section className="condition" aria-label={words.condition}>
        <Input.TextArea
          aria-label={words.condition}
          className="line-input conditiontext"
          variant="underlined"
          autoSize={{ minRows: 1, maxRows: 6 }}
          spellCheck={false}
          value={typed ?? text}
          onChange={(event) => {
            setTyped(event.target.value);
            onChange(event.target.value);
          }}
        />
        {read ? (
          <button type="button" className="textact" onClick={() => setTyped(null)}>
            {words.asPicked}
          </button>
        ) : (
          <span className="soft">{words.onlyText}</span>
        )}
      </section>
    );
  const known = byId(fields);
  const parts = simple?.parts ?? [];
  const all = simple?.all ?? true;
  return (
    <section className="condition" aria-label={words.condition}>
      {parts.length === 0 && <span className="soft">{words.every}</span>}
      {parts.map((part, i) => (
        <div key={`${i} ${part.field}`} className="conditionpart">
          {i > 0 && (
            <button type="button" className="textact" onClick={() => take({ all: !all, parts })}>
              {all ? words.join.all : words.join.any}
            </button>
          )}
          <ConditionPartRow
            part={part}
            at={i}
            {...{ fields, subject }}
            field={known.get(part.field)}
            onChange={(next) => take({ all, parts: parts.map((one, at) => (at === i ? next : one)) })}
            onDrop={() => take({ all, parts: parts.filter((_, at) => at !== i) })}
          />
        </div>
      ))}
      <div className="conditionacts">
        <button
          type="button"
          className="textact"
          disabled={fields.length === 0}
          onClick={() => setOpen({ all, parts: [...parts, freshPart(fields)] })}
        >
          {words.addCondition}
        </button>
        <button type="button" className="textact" onClick={() => setTyped(text)}>
          {words.asText}
        </button>
      </div>
    </section>
  );
};
