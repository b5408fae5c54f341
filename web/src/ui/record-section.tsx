import type { RecordOut, SectionName } from '@gremium/contract';
import { byFrom, isBefore, isOn } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { type Edits, editKey } from '../time/edits';
import { SectionEditor, type Version, beginEdit } from '../time/section-editor';
import { Facts, type Showing } from './field-value';

/** Begins edits of sections on the day of the lens. */
export const useEditing = ({ record, edits }: { record: RecordOut; edits: Edits }) => {
  const { on, today } = useLens();
  return {
    begin: (section: SectionName, version: Version, values: Record<string, unknown> = {}) =>
      edits.put({ ...beginEdit(section, version, { record, on, today }), values }),
  };
};

export type Editing = ReturnType<typeof useEditing>;

type SectionProps = {
  section: SectionName;
  versions: readonly Version[];
  facts: React.ComponentProps<typeof Facts>['of'];
  editing: Editing;
  edits: Edits;
  showing: Showing;
  /** Another act in place of editing: a movement that is bound to the section. */
  act?: { label: string; start: () => void } | null;
  title?: string;
};

/** A section of a record: what is in effect, since when; edited in its place. */
export const RecordSection = ({
  section,
  versions,
  facts,
  editing,
  edits,
  showing,
  act,
  title,
}: SectionProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const may = useMay();
  const version = versions.find((candidate) => isOn(candidate, on));
  const things = [...new Set(versions.map(({ thing }) => thing))];
  const open = edits.edits.filter((edit) => edit.section === section && things.includes(edit.thing));
  const later = versions.filter(({ from }) => isBefore(on, from)).sort(byFrom)[0];
  return (
    <section className={open.length > 0 ? 'block editing' : 'block'} id={`section-${section}`}>
      <h2>
        {title ?? t(`section.${section as keyof Texts['section']}`)}
        {version && version.from !== '-infinity' && (
          <span className="since">{t('record.since', { day: format.day(version.from) })}</span>
        )}
        {later && (
          <span className="since indigo">{t('record.changes', { day: format.day(later.from) })}</span>
        )}
        <span className="act">
          {open.length > 0 ? (
            <button
              type="button"
              className="textact"
              onClick={() => open.forEach((edit) => edits.drop(edit))}
            >
              {t('edit.discardOne')}
            </button>
          ) : (
            act && (
              <button type="button" className="textact" onClick={act.start}>
                {act.label}
              </button>
            )
          )}
          {open.length === 0 && act === undefined && version && may.edit(section) && (
            <button
              type="button"
              className="textact"
              aria-label={t('edit.changeSection', {
                section: title ?? t(`section.${section as keyof Texts['section']}`),
              })}
              onClick={() => editing.begin(section, version)}
            >
              {t('edit.change')}
            </button>
          )}
        </span>
      </h2>
      {open.length === 0 && (version ? <Facts of={facts} /> : <p className="soft">{t('record.nothing')}</p>)}
      {open.map((edit) => (
        <SectionEditor key={editKey(section, edit.thing)} {...{ edit, edits, showing }} />
      ))}
    </section>
  );
};
