import type { ReportFieldOut, ViewColumn } from '@gremium/contract';
import { fold } from '@gremium/core';
import { Input } from 'antd';
import { useState } from 'react';
import { useWords } from '../texts/words';
import { reportWords } from './report-words';

type ShelfProps = {
  fields: readonly ReportFieldOut[];
  chosen: readonly ViewColumn[];
  onChange: (columns: ViewColumn[]) => void;
};

/** All fields of the subject by section, searched as one types; one press takes a field into the report or out of it. */
export const FieldShelf = ({ fields, chosen, onChange }: ShelfProps) => {
  const words = useWords(reportWords);
  const [search, setSearch] = useState('');
  const wanted = fold(search).split(' ').filter(Boolean);
  const isChosen = (id: string) => chosen.some(({ field }) => field === id);
  const fitting = fields.filter(({ label, group }) =>
    wanted.every((word) => fold(`${label} ${group}`).includes(word)),
  );
  const groups = [...new Set(fitting.map(({ section }) => section))];
  const own = fields.filter(({ isOwn }) => isOwn).length;
  const toggle = (field: ReportFieldOut) => {
    if (isChosen(field.id)) {
      if (chosen.length > 1) onChange(chosen.filter((one) => one.field !== field.id));
    } else
      onChange([...chosen, { field: field.id, ...(field.isSeveral ? { several: 'all' as const } : {}) }]);
  };
  return (
    <section aria-label={words.columns}>
      <h2>
        {words.columns} <span className="since">{words.columnsCount(fields.length, own)}</span>
      </h2>
      <Input
        className="line-input"
        variant="underlined"
        aria-label={words.findColumn}
        placeholder={words.findColumn}
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <div className="fieldgroups">
        {groups.map((section, i) => {
          const inside = fitting.filter((field) => field.section === section);
          const taken = inside.filter(({ id }) => isChosen(id)).length;
          return (
            <details key={section} open={wanted.length > 0 || taken > 0 || i === 0}>
              <summary>
                {inside[0]?.group} <span className="soft">{`${taken}/${inside.length}`}</span>
              </summary>
              {inside.map((field) => (
                <button
                  key={field.id}
                  type="button"
                  className={isChosen(field.id) ? 'fieldpick on' : 'fieldpick'}
                  aria-pressed={isChosen(field.id)}
                  onClick={() => toggle(field)}
                >
                  <span aria-hidden>{isChosen(field.id) ? '✓' : ''}</span>
                  {field.label}
                </button>
              ))}
            </details>
          );
        })}
      </div>
    </section>
  );
};
