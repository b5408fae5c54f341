import { Button, Select } from 'antd';
import { Fragment, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useMay } from '../frame/session';
import { ColumnField, canBecomeFields } from './column-field';
import { useFieldLabel } from './import-field-label';
import { Step, type StepProps } from './import-step';
import { ColumnDays } from './column-days';

/** What each column is taken for, and a form to say it otherwise. */
export const ColumnMatching = ({ of, acts }: StepProps) => {
  const { t } = useTranslation('files');
  const labelOf = useFieldLabel();
  const { columns, state, own } = of;
  const isUnknown = columns.every(({ field }) => field === null);
  const [editing, setEditing] = useState<(string | null)[] | null>(null);
  const [making, setMaking] = useState<number | null>(null);
  const may = useMay();
  const mayMake = canBecomeFields(of.subject) && may.edit('own_section') && may.act('create');
  const canMatch = own && (state === 'uploaded' || ['checked', 'in_repair', 'ready'].includes(state));
  const fields = editing ?? (isUnknown && canMatch ? columns.map(({ field }) => field) : null);
  if (fields)
    return (
      <Step number={2} name={t('columns.head')} look="now">
        <p className="source">{t('columns.once')}</p>
        <div className="matching">
          {columns.map(({ heading, samples }, i) => (
            <Fragment key={`${heading} ${i}`}>
              <div>
                <label htmlFor={`column-${i}`}>
                  <span className="heading">{heading}</span>
                  <Select<string>
                    id={`column-${i}`}
                    aria-label={t('columns.of', { heading })}
                    variant="underlined"
                    showSearch={{ optionFilterProp: 'label' }}
                    value={fields[i] ?? ''}
                    options={[
                      { value: '', label: t('columns.left') },
                      ...of.fields.map(({ name, label }) => ({ value: name, label })),
                    ]}
                    onChange={(chosen) =>
                      setEditing(
                        fields.map((field, at) =>
                          at === i ? chosen || null : field === chosen ? null : field,
                        ),
                      )
                    }
                  />
                  <span className="source">
                    {t('columns.sample', {
                      samples: [...new Set(samples.filter(Boolean))].join(', ') || '–',
                    })}
                  </span>
                </label>
                {mayMake && fields[i] === null && making !== i && (
                  <p className="makefield">
                    <button
                      type="button"
                      className="textact"
                      aria-label={t('columns.makeOf', { heading })}
                      onClick={() => setMaking(i)}
                    >
                      {t('columns.make')}
                    </button>
                  </p>
                )}
              </div>
              {making === i && (
                <ColumnField
                  of={of}
                  at={i}
                  onLeave={() => setMaking(null)}
                  onMade={(field) => {
                    setMaking(null);
                    const chosen = fields.map((one, at) => (at === i ? field : one));
                    acts.arrange.mutate({ columns: chosen }, { onSuccess: () => setEditing(chosen) });
                  }}
                />
              )}
            </Fragment>
          ))}
        </div>
        <div className="acts">
          <Button
            type="primary"
            disabled={fields.every((field) => field === null)}
            loading={acts.arrange.isPending}
            onClick={() => acts.arrange.mutate({ columns: fields }, { onSuccess: () => setEditing(null) })}
          >
            {t('columns.check')}
          </Button>
          {!isUnknown && (
            <Button type="text" onClick={() => setEditing(null)}>
              {t('columns.leave')}
            </Button>
          )}
        </div>
      </Step>
    );
  return (
    <Step
      number={2}
      name={t('columns.head')}
      look="done"
      act={
        canMatch && (
          <button
            type="button"
            className="textact"
            onClick={() => setEditing(columns.map(({ field }) => field))}
          >
            {t('columns.again')}
          </button>
        )
      }
    >
      <ul className="matched">
        {columns.map(({ heading, field, how, days }, i) => (
          <li key={`${heading} ${i}`} className={field === null ? 'left' : undefined}>
            <span className="soft">{heading}</span>
            <span className="arrow" aria-hidden>
              →
            </span>
            <span>
              {field === null ? t('columns.left') : labelOf(field)}
              {(how === 'memory' || how === 'split') && field !== null && (
                <span className="source"> {t(`columns.${how}`)}</span>
              )}
            </span>
            {days && (
              <ColumnDays
                {...{ days, heading }}
                onChoose={
                  canMatch ? (order) => acts.arrange.mutate({ dayOrders: [{ column: i, order }] }) : undefined
                }
              />
            )}
          </li>
        ))}
      </ul>
    </Step>
  );
};
