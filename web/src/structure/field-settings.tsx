// What the organisation says of fields that are preset: their words, whom they are hidden from, where they stand.
import { type FieldSetting, PLACE, type Section, type SectionName, orderedMetas } from '@gremium/contract';
import { canShowIn, isNeeded } from '@gremium/core';
import { Input, Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import { useWords } from '../texts/words';
import { settingOf, wholeCatalogue } from '../time/catalogue-now';
import { EntryField } from '../ui/entry-field';
import { useFieldName, usePresetFieldName } from '../ui/field-name';
import { useSectionName } from '../ui/section-name';
import { useDragging } from '../ui/use-dragging';
import { EntryFrame } from './entry-frame';
import { MoveTo, type Target } from './move-to';
import type { OwnActs } from './own-acts';
import { ownWords } from './own-words';

type Said = Pick<FieldSetting, 'label' | 'hiddenFrom' | 'shownIn'>;

const ROLES = ['administrator', 'specialist', 'auditor', 'manager', 'crew'] as const;

/** Sections of a kind of record that have fields to be settled, as their records show them. */
const KINDS = ['person', 'employment', 'position', 'unit', 'job'] as const;

const settleable = (section: Section): string[] =>
  orderedMetas(section.metas).flatMap(([name, meta]) =>
    meta.quiet || meta.is === 'json' || name === section.owner?.field ? [] : [name],
  );

const presetSections = (): Section[] => {
  const catalogue = wholeCatalogue();
  const names = KINDS.flatMap((kind) => [...catalogue.of(kind), ...catalogue.belongingTo(kind)]);
  return [...new Set(names)]
    .map((name) => catalogue.section(name))
    .filter((section) => section.own === null && settleable(section).length > 0);
};

/** What a field is called, whom it is hidden from and where it is shown, typed. */
export const SettingForm = ({
  section,
  field,
  error,
  isBusy,
  onLeave,
  onSave,
}: {
  section: Section;
  field: string;
  error: Error | null;
  isBusy: boolean;
  onLeave: () => void;
  onSave: (said: Said) => void;
}) => {
  const words = useWords(ownWords);
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  const now = settingOf(section.name, field)?.values;
  const [label, setLabel] = useState(now?.label ?? { en: '', de: '' });
  const [hiddenFrom, setHidden] = useState<readonly string[]>(now?.hiddenFrom ?? []);
  const [shownIn, setShownIn] = useState<string | null>(now?.shownIn ?? null);
  const isOwn = section.own !== null;
  const others = wholeCatalogue().sections.filter((other) => canShowIn(section, other));
  const [en, de] = [label.en.trim(), label.de.trim()];
  const save = () =>
    onSave({
      label: en || de ? { en: en || de, de: de || en } : null,
      hiddenFrom: hiddenFrom.length > 0 ? (hiddenFrom as FieldSetting['hiddenFrom']) : null,
      shownIn,
    });
  return (
    <EntryFrame
      lead={words.settings}
      submit={words.save}
      isReady
      {...{ error, isBusy, onLeave }}
      onSubmit={save}
    >
      <div className="entryfields">
        {!isOwn &&
          (['en', 'de'] as const).map((language) => (
            <EntryField key={language} label={language === 'en' ? words.labelEn : words.labelDe}>
              <Input
                aria-label={language === 'en' ? words.labelEn : words.labelDe}
                className="line-input"
                variant="underlined"
                autoComplete="off"
                maxLength={200}
                placeholder={words.asPreset}
                value={label[language]}
                onChange={(event) => setLabel({ ...label, [language]: event.target.value })}
              />
            </EntryField>
          ))}
        <EntryField label={words.hiddenFrom}>
          {isNeeded(section, field) ? (
            <div className="soft">{words.needed}</div>
          ) : (
            <Select
              mode="multiple"
              showSearch={{ optionFilterProp: 'label' }}
              className="line-input"
              variant="underlined"
              aria-label={words.hiddenFrom}
              placeholder={words.nobody}
              value={[...hiddenFrom]}
              options={ROLES.map((role) => ({
                value: role,
                label: role === 'crew' ? words.crew : t(`choice.${role}`),
              }))}
              onChange={(roles: string[]) => setHidden(roles)}
            />
          )}
        </EntryField>
        {others.length > 0 && (
          <EntryField label={words.shownIn}>
            <Select
              className="line-input"
              variant="underlined"
              aria-label={words.shownIn}
              showSearch={{ optionFilterProp: 'label' }}
              value={shownIn ?? section.name}
              options={[section, ...others].map((other) => ({
                value: other.name,
                label: nameOfSection(other.name as SectionName),
              }))}
              onChange={(name: string) => setShownIn(name === section.name ? null : name)}
            />
          </EntryField>
        )}
      </div>
    </EntryFrame>
  );
};

/** What is said of a field, in a line: hidden from whom, shown where. */
export const useSettingSaid = () => {
  const words = useWords(ownWords);
  const { t } = useTranslation();
  const nameOfSection = useSectionName();
  return (section: string, field: string): string[] => {
    const said = settingOf(section, field)?.values;
    const roles = (said?.hiddenFrom ?? []).map((role) =>
      role === 'crew' ? words.crew : t(`choice.${role as keyof Texts['choice']}`),
    );
    return [
      ...(roles.length > 0 ? [words.isHidden(roles.join(', '))] : []),
      ...(said?.shownIn ? [words.isShownIn(nameOfSection(said.shownIn as SectionName))] : []),
    ];
  };
};

/** Where else a field can be shown, for a choice of where to move it; back where it is kept, if it is shown elsewhere. */
export const useElsewhere = () => {
  const words = useWords(ownWords);
  const nameOfSection = useSectionName();
  return (section: Section, field: string): { section: string; label: string }[] => {
    const shownIn = settingOf(section.name, field)?.values.shownIn ?? null;
    const nameOf = (name: string) => nameOfSection(name as SectionName);
    const others = wholeCatalogue().sections.filter(
      (other) =>
        canShowIn(section, other) &&
        other.name !== shownIn &&
        (other.own !== null || settleable(other).length > 0),
    );
    return [
      ...(shownIn ? [{ section: section.name, label: words.back(nameOf(section.name)) }] : []),
      ...others.map(({ name }) => ({ section: name, label: words.into(nameOf(name)) })),
    ];
  };
};

/** What a setting says of where a field is shown: nothing where that is its own section. */
export const shownInOf = (section: Section, target: { section: string }): string | null =>
  target.section === section.name ? null : target.section;

/** Preset fields of a section: called otherwise, hidden from roles, put elsewhere. */
export const PresetFields = ({ acts, mayEdit }: { acts: OwnActs; mayEdit: boolean }) => {
  const words = useWords(ownWords);
  const nameOfSection = useSectionName();
  const [chosen, setChosen] = useState<string>('person');
  const sections = presetSections();
  const section = sections.find(({ name }) => name === chosen);
  return (
    <section className="presetfields" aria-label={words.preset}>
      <h2>{words.preset}</h2>
      <p className="soft">{words.presetLead}</p>
      <Select
        aria-label={words.presetSection}
        showSearch={{ optionFilterProp: 'label' }}
        style={{ minWidth: 260 }}
        value={chosen}
        options={sections.map(({ name }) => ({ value: name, label: nameOfSection(name as SectionName) }))}
        onChange={setChosen}
      />
      {section && <Lines key={chosen} {...{ section, acts, mayEdit }} />}
    </section>
  );
};

/** A field as it is dragged: where it stands, its name. */
type Line = { id: number; name: string };

const Lines = ({ section, acts, mayEdit }: { section: Section; acts: OwnActs; mayEdit: boolean }) => {
  const words = useWords(ownWords);
  const nameOf = useFieldName();
  const presetName = usePresetFieldName();
  const settingSaid = useSettingSaid();
  const [open, setOpen] = useState<string | null>(null);
  const fields = settleable(section);
  const placeOf = (name: string): number =>
    section.metas.get(name)?.place ?? ([...section.metas.keys()].indexOf(name) + 1) * PLACE;
  const set = (field: string, values: Partial<FieldSetting>, text: string) =>
    acts.setField.mutate(
      { asked: { of: { section: section.name, field }, values }, text },
      { onSuccess: () => setOpen(null) },
    );
  // between the two that it is put between
  const put = (field: string, before: string | null) => {
    const others = fields.filter((name) => name !== field);
    const at = before === null ? others.length : others.indexOf(before);
    const [low, high] = [others[at - 1], others[at]].map((name) => (name ? placeOf(name) : undefined));
    const place = high === undefined ? (low ?? 0) + PLACE : Math.floor(((low ?? 0) + high) / 2);
    set(field, { place }, words.said.moved(nameOf(section.name, field)));
  };
  const elsewhere = useElsewhere();
  const move = (field: string, target: Target) =>
    'section' in target
      ? set(field, { shownIn: shownInOf(section, target) }, words.said.moved(nameOf(section.name, field)))
      : put(field, target.before);
  const dragging = useDragging<Line>({
    mayTake: (a, b) => a.id !== b.id,
    onDrop: (line, onto) => put(line.name, onto.name),
  });
  return (
    <table className="register">
      <thead>
        <tr>
          <th scope="col">{words.presetField}</th>
          <th scope="col">{words.sight}</th>
          {mayEdit && (
            <th scope="col">
              <span className="hidden">{words.change}</span>
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {fields.map((field, i) => {
          const name = nameOf(section.name, field);
          const original = presetName(section.name, field);
          return [
            <tr
              key={field}
              className="presetfield"
              {...(mayEdit ? dragging.handlers({ id: i, name: field }, true) : {})}
            >
              <td>
                {name}
                {name !== original && <span className="soft"> ({original})</span>}
              </td>
              <td>{settingSaid(section.name, field).join(' · ')}</td>
              {mayEdit && (
                <td className="ownacts">
                  <button
                    type="button"
                    className="textact"
                    aria-label={`${words.change}: ${name}`}
                    onClick={() => setOpen(field)}
                  >
                    {words.change}
                  </button>
                  <MoveTo
                    name={name}
                    others={fields
                      .filter((other) => other !== field)
                      .map((other) => ({ id: other, name: nameOf(section.name, other) }))}
                    sections={elsewhere(section, field)}
                    onMove={(target) => move(field, target)}
                  />
                </td>
              )}
            </tr>,
            open === field && (
              <tr key={`${field} form`}>
                <td colSpan={3}>
                  <SettingForm
                    {...{ section, field }}
                    error={acts.setField.error}
                    isBusy={acts.setField.isPending}
                    onLeave={() => setOpen(null)}
                    onSave={(said) => set(field, said, words.said.changed(name))}
                  />
                </td>
              </tr>
            ),
          ];
        })}
      </tbody>
    </table>
  );
};
