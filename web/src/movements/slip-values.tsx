import { type FieldMeta, type Moved, type SlipValue, fieldAt, movementOf, preset } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { type Showing, useShow } from '../ui/field-value';
import { useFieldLabel } from './slip-input';
import type { SlipWords } from './slip-declared';

// What is told last, folded away.
const FOLDED = ['jobId', 'locationId', 'workerTypeId', 'fullTime', 'currency', 'code', 'handoverDays'];

// So few, and all of them are shown.
const FEW = 3;

// Sections that a value belongs to where it does not say: whatever a movement mostly is about.
const MOSTLY = ['placement', 'position', 'employment', 'unit'];

const metaOf = (kind: Moved['kind'], { section, field }: SlipValue): FieldMeta | undefined => {
  for (const name of section ? [section] : MOSTLY) {
    const meta = preset.has(name as 'unit') ? preset.section(name as 'unit').metas.get(field) : undefined;
    if (meta) return meta;
  }
  return fieldAt(movementOf(kind).input, field)?.meta;
};

type ValuesProps = {
  moved: Pick<Moved, 'kind' | 'slip'>;
  showing: Showing;
  words: SlipWords;
  hasBefore: boolean;
  /** What was before stands again afterwards. */
  returns?: boolean;
};

/** Values before and after, each with its source; what follows by itself is folded away. */
export const SlipValues = ({ moved, showing, words, hasBefore, returns = false }: ValuesProps) => {
  const { t } = useTranslation();
  const labelOf = useFieldLabel();
  const isFolded = ({ field }: SlipValue) => FOLDED.includes(field) && moved.slip.length > FEW;
  const main = moved.slip.filter((value) => !isFolded(value));
  const folded = moved.slip.filter(isFolded);
  const table = (values: readonly SlipValue[], hasHead: boolean) => (
    <table className={returns ? 'beforeafter slipvalues returns' : 'beforeafter slipvalues'}>
      {hasHead && <Head {...{ hasBefore, returns }} />}
      <tbody>
        {values.map((value, i) => (
          <ValueRow
            key={`${value.field} ${i}`}
            {...{ value, showing, words, hasBefore, returns }}
            kind={moved.kind}
          />
        ))}
      </tbody>
    </table>
  );
  const fields = folded.map(({ field }) => labelOf(field, words.fields)).join(', ');
  return (
    <>
      {table(main, true)}
      {folded.length > 0 && (
        <details>
          <summary>{t('slip.follows', { fields, count: folded.length })}</summary>
          {table(folded, false)}
        </details>
      )}
    </>
  );
};

const Head = ({ hasBefore, returns }: { hasBefore: boolean; returns: boolean }) => {
  const { t } = useTranslation();
  return (
    <thead>
      <tr>
        <th scope="col">
          <span className="hidden">{t('edit.field')}</span>
        </th>
        {hasBefore && <th scope="col">{t('slip.before')}</th>}
        <th scope="col">{t(returns ? 'slip.meanwhile' : 'slip.after')}</th>
        {returns && <th scope="col">{t('slip.then')}</th>}
      </tr>
    </thead>
  );
};

type RowProps = Omit<ValuesProps, 'moved'> & { kind: Moved['kind']; value: SlipValue };

const ValueRow = ({ kind, value, showing, words, hasBefore, returns }: RowProps) => {
  const { t } = useTranslation();
  const labelOf = useFieldLabel();
  const show = useShow(showing);
  const meta = metaOf(kind, value);
  const said = (of: SlipValue['after'], name: string | undefined): string => {
    if (of === null) return '–';
    // a position that is made with a hire has no name yet
    const isMade = value.field === 'positionId' && value.source === 'unit';
    if (meta?.is === 'ref') return name ?? (isMade ? t('mark.new') : '–');
    return (meta ? show({ ...meta, name: value.field }, of) : String(of)) || '–';
  };
  const isSame = hasBefore && value.before === value.after;
  const label = value.section === 'contract' && value.field === 'kindId' ? t('section.contract') : null;
  return (
    <tr className={isSame ? 'same' : undefined}>
      <th scope="row">{label ?? labelOf(value.field, words.fields)}</th>
      {hasBefore && <td>{said(value.before, value.beforeName)}</td>}
      <td className="after">
        {said(value.after, value.afterName)}
        {!isSame && <div className="source">{t(`source.${value.source as keyof Texts['source']}`)}</div>}
      </td>
      {returns && <td>{said(value.before, value.beforeName)}</td>}
    </tr>
  );
};
