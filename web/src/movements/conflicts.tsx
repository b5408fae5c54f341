import type { Problem, SectionName } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { ComparedTable } from '../ui/compared-table';
import { type Showing, useShow } from '../ui/field-value';
import { fieldsOf } from '../ui/fields';
import { useSentence } from '../ui/problems';
import { useFieldName } from '../ui/field-name';
import { useSectionName } from '../ui/section-name';

type Changed = { section: SectionName; field: string; from: string; was: unknown; now: unknown };

/** What somebody else changed since a slip was prepared: each field as it was and as it now is. */
export const Conflicts = ({ conflicts, showing }: { conflicts: readonly Problem[]; showing: Showing }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const sentence = useSentence();
  const show = useShow(showing);
  const nameOfField = useFieldName();
  const nameOfSection = useSectionName();
  const [first] = conflicts;
  if (!first) return null;
  const changed = conflicts.flatMap(
    ({ params }) => JSON.parse(String(params['fields'] ?? '[]')) as Changed[],
  );
  const said = ({ section, field: name }: Changed, value: unknown): string => {
    if (name === 'from' || name === 'until') return value === null ? '–' : format.day(String(value));
    const field = fieldsOf(section).find((one) => one.name === name);
    return (field ? show(field, value) : String(value ?? '')) || '–';
  };
  const label = ({ section, field: name }: Changed): string =>
    name === 'from' || name === 'until'
      ? `${nameOfSection(section)}, ${t(name === 'from' ? 'edit.from' : 'slip.until')}`
      : nameOfField(section, name);
  const known = changed.filter(
    ({ section, field }) =>
      field === 'from' || field === 'until' || fieldsOf(section).some(({ name }) => name === field),
  );
  return (
    <div className="conflict" role="alert">
      <p>! {sentence(first)}</p>
      {known.length > 0 && (
        <ComparedTable
          heads={[t('edit.was'), t('edit.theirs')]}
          rows={known.map((one, i) => ({
            key: `${one.section} ${one.field} ${i}`,
            label: label(one),
            cells: [said(one, one.was), said(one, one.now)],
          }))}
        />
      )}
    </div>
  );
};
