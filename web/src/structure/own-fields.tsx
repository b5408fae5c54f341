import './steps.css';
import './own-fields.css';
import {
  type FieldSetting,
  type OwnField,
  ownFieldName,
  ownName,
  ownValueEndpoints,
} from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { call } from '../api';
import { useLens, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useMay } from '../frame/session';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { wholeCatalogue } from '../time/catalogue-now';
import { SaidLine } from '../time/said-line';
import { useReference } from '../time/time.queries';
import { readsOf } from '../time/touched';
import { useDragging } from '../ui/use-dragging';
import { Problems } from '../ui/problems';
import { Views } from '../ui/views';
import {
  type Definition,
  type OwnActs,
  type SectionDefined,
  placesFor,
  sectionsDefined,
  useOwnActs,
} from './own-acts';
import { FieldForm, SectionForm } from './own-forms';
import { PresetFields, SettingForm, shownInOf, useElsewhere, useSettingSaid } from './field-settings';
import { MoveTo } from './move-to';
import { ownWords } from './own-words';

/** What is open: a new section, a section, a new field of a section, a field. */
type Open = { section: number | null; field: number | null | undefined; isSetting?: true } | null;

/** The organisation's own sections and fields: made, changed, put in their order, retired. */
export const OwnFields = () => {
  const words = useWords(ownWords);
  const pageName = useNameOfPage('/setup/fields');
  const { i18n } = useTranslation();
  const may = useMay();
  const rows = useReference();
  const acts = useOwnActs(rows ?? []);
  const [open, setOpen] = useState<Open>(null);
  const { query } = useLens();
  const counted = useQuery({
    queryKey: ['own values', query],
    queryFn: () => call(ownValueEndpoints.ownValues, { query }),
    enabled: may.edit('own_section'),
    meta: readsOf('person', 'own_section', 'own_field'),
  });
  if (!rows) return null;
  const sections = sectionsDefined(rows);
  const nameOf = ({ values }: Definition<{ label: { en: string; de: string } }>) =>
    values.label[i18n.language === 'de' ? 'de' : 'en'];
  const mayEdit = may.edit('own_section') && may.act('create');
  return (
    <main className="sheet templates">
      <Views of="setup" />
      <div className="steps ownfields">
        <h1>{pageName}</h1>
        <p className="soft">{words.lead}</p>
        {acts.done && <SaidLine {...acts.done} />}
        <Problems of={acts.change.error ?? acts.setField.error} />
        {sections.length === 0 && <p>{words.none}</p>}
        {sections.length > 0 && (
          <Defined {...{ sections, acts, open, setOpen, nameOf, mayEdit }} counts={counted.data?.fields} />
        )}
        {mayEdit && open?.section === null && (
          <SectionForm
            place={(sections.at(-1)?.values.place ?? -10) + 10}
            error={acts.addSection.error}
            isBusy={acts.addSection.isPending}
            onLeave={() => setOpen(null)}
            onSave={(asked, name) =>
              acts.addSection.mutate(
                { asked, text: words.said.section(name) },
                { onSuccess: () => setOpen(null) },
              )
            }
          />
        )}
        {mayEdit && open === null && (
          <p className="addsection">
            <Button type="primary" onClick={() => setOpen({ section: null, field: undefined })}>
              {words.addSection}
            </Button>
          </p>
        )}
        {open === null && <PresetFields {...{ acts, mayEdit }} />}
      </div>
    </main>
  );
};

type Count = { field: string; values: number; missing: number; twice: number; alike: readonly string[] };
type DefinedProps = {
  sections: readonly SectionDefined[];
  /** Left out while they are counted: with many people that takes some seconds. */
  counts: readonly Count[] | undefined;
  acts: OwnActs;
  open: Open;
  setOpen: (open: Open) => void;
  nameOf: (of: Definition<{ label: { en: string; de: string } }>) => string;
  mayEdit: boolean;
};

type Line = { id: number; name: string; kind: 'own_section' | 'own_field'; group: number };

// What puts a section before another one, or a field before one of the same section.
const useMoving = ({ sections, acts, nameOf }: DefinedProps) => {
  const words = useWords(ownWords);
  const put = ({ kind, id, group, name }: Line, before: number | null) => {
    const all: readonly Definition<{ place: number }>[] =
      kind === 'own_section' ? sections : (sections.find((one) => one.id === group)?.fields ?? []);
    const changes = placesFor(all, id, before).map((one) => ({
      kind,
      of: all.find((other) => other.id === one.id) as Definition<{ place: number }>,
      values: { place: one.place },
    }));
    if (changes.length > 0) acts.change.mutate({ asked: changes, text: words.said.moved(name) });
  };
  const isAlike = (a: Line, b: Line) => a.kind === b.kind && a.group === b.group && a.id !== b.id;
  const dragging = useDragging<Line>({ mayTake: isAlike, onDrop: (line, onto) => put(line, onto.id) });
  const others = (line: Line): { id: number; name: string }[] => {
    const all: readonly Definition<{ label: { en: string; de: string } }>[] =
      line.kind === 'own_section' ? sections : (sections.find((one) => one.id === line.group)?.fields ?? []);
    return all.filter(({ id }) => id !== line.id).map((one) => ({ id: one.id, name: nameOf(one) }));
  };
  return {
    put,
    others,
    handlers: (line: Line, isOn: boolean) => (isOn ? dragging.handlers(line, true) : {}),
  };
};

const Defined = (props: DefinedProps) => {
  const { sections, mayEdit } = props;
  const words = useWords(ownWords);
  const moving = useMoving(props);
  return (
    <table className="register">
      <thead>
        <tr>
          <th scope="col">{words.field}</th>
          <th scope="col">{words.kind}</th>
          <th scope="col">{words.required}</th>
          <th scope="col">{words.unique}</th>
          <th scope="col" className="r">
            {words.values}
          </th>
          {mayEdit && (
            <th scope="col">
              <span className="hidden">{words.change}</span>
            </th>
          )}
        </tr>
      </thead>
      {sections.map((section) => (
        <SectionLines key={section.id} {...{ section, moving }} {...props} />
      ))}
    </table>
  );
};

type Moving = ReturnType<typeof useMoving>;

const SectionLines = ({
  section,
  moving,
  ...props
}: DefinedProps & { section: SectionDefined; moving: Moving }) => {
  const { acts, open, setOpen, nameOf, mayEdit } = props;
  const words = useWords(ownWords);
  const { t } = useTranslation();
  const { values, fields, id } = section;
  const name = nameOf(section);
  const line: Line = { id, name, kind: 'own_section', group: 0 };
  const isOpen = open?.section === id;
  const seen = [...new Set([...(values.seenBy ?? []), ...(values.editedBy ?? [])])];
  const close = { onSuccess: () => setOpen(null) };
  return (
    <tbody>
      <tr className="ownsection" {...moving.handlers(line, mayEdit)}>
        <th scope="row" colSpan={4}>
          {name}{' '}
          <span className="soft">
            {(values.several ? words.many : words.one)[values.of]} ·{' '}
            {seen.length === 0
              ? words.asAll
              : seen.map((role) => t(`choice.${role as keyof Texts['choice']}`)).join(', ')}
            {values.retired && ` · ${words.retired}`}
          </span>
        </th>
        <td />
        {mayEdit && (
          <td className="ownacts">
            <Acts
              {...{ line, moving, acts }}
              of={section}
              isRetired={values.retired === true}
              onChange={() => setOpen({ section: id, field: undefined })}
            />
            {!values.retired && (
              <button type="button" className="textact" onClick={() => setOpen({ section: id, field: null })}>
                {words.addField}
              </button>
            )}
          </td>
        )}
      </tr>
      {isOpen && open.field === undefined && (
        <FormLine>
          <SectionForm
            now={section}
            place={values.place}
            error={acts.change.error}
            isBusy={acts.change.isPending}
            onLeave={() => setOpen(null)}
            onSave={({ of: _, code: __, ...asked }, said) =>
              acts.change.mutate(
                {
                  asked: [{ kind: 'own_section', of: section, values: asked }],
                  text: words.said.changed(said),
                },
                close,
              )
            }
          />
        </FormLine>
      )}
      {fields.map((field) => (
        <FieldLine key={field.id} {...{ section, field, moving }} {...props} />
      ))}
      {isOpen && open.field === null && (
        <FormLine>
          <FieldForm
            sectionId={id}
            mayAsk={isOfOnePerson(section)}
            place={(fields.at(-1)?.values.place ?? -10) + 10}
            error={acts.addField.error}
            isBusy={acts.addField.isPending}
            onLeave={() => setOpen(null)}
            onSave={(asked, said) => acts.addField.mutate({ asked, text: words.said.field(said) }, close)}
          />
        </FormLine>
      )}
    </tbody>
  );
};

const FormLine = ({ children }: { children: React.ReactNode }) => (
  <tr>
    <td colSpan={6}>{children}</td>
  </tr>
);

// A hire asks for fields of people of which there is one row at a time.
const isOfOnePerson = ({ values }: SectionDefined): boolean => values.of === 'person' && !values.several;

type FieldProps = DefinedProps & {
  section: SectionDefined;
  field: Definition<OwnField>;
  moving: Moving;
};

const FieldLine = ({ section, field, moving, ...props }: FieldProps) => {
  const { acts, counts, open, setOpen, nameOf, mayEdit } = props;
  const words = useWords(ownWords);
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const { values, id } = field;
  const name = nameOf(field);
  const line: Line = { id, name, kind: 'own_field', group: section.id };
  const count = counts?.find((one) => one.field === ownFieldName(id));
  const isOpen = open?.section === section.id && open.field === id;
  const known = wholeCatalogue();
  const declared = known.has(ownName(section.id)) ? known.section(ownName(section.id)) : undefined;
  const settingSaid = useSettingSaid();
  const elsewhere = useElsewhere();
  const settle = (said: Partial<FieldSetting>, text: string) =>
    acts.setField.mutate(
      { asked: { of: { section: ownName(section.id), field: ownFieldName(id) }, values: said }, text },
      { onSuccess: () => setOpen(null) },
    );
  const path = `own.s${section.id}.${ownFieldName(id)}`;
  const where = `blank(${path})`;
  return (
    <>
      <tr className={values.retired ? 'ownfield over' : 'ownfield'} {...moving.handlers(line, mayEdit)}>
        <td>
          {name}
          {values.help && <div className="source">{values.help}</div>}
          {settingSaid(ownName(section.id), ownFieldName(id)).map((said) => (
            <div key={said} className="source">
              {said}
            </div>
          ))}
        </td>
        <td>
          {words.kinds[values.kind] ?? t(`choice.${values.kind}`)}
          {values.pattern && <span className="soft"> {values.pattern}</span>}
          {(values.least ?? values.most) !== null && (
            <span className="soft">
              {' '}
              {values.least ?? '…'} – {values.most ?? '…'}
            </span>
          )}
        </td>
        <td>{values.required ? `✓ ${t('yes')}` : ''}</td>
        <td>{values.unique ? `✓ ${t('yes')}` : ''}</td>
        <td className="r">
          {count ? format.number(count.values) : counts === undefined ? '…' : values.retired ? '' : '0'}
          {values.required &&
            count &&
            count.missing > 0 &&
            section.values.of === 'person' &&
            !section.values.several && (
              <div className="source">
                <Link to={to('/people', { where })}>{words.missing(format.number(count.missing))}</Link>
              </div>
            )}
          {count && count.twice > 0 && (
            <div className="source ochre">
              {section.values.of === 'person' && !section.values.several ? (
                <Link to={to('/people', { where: alikeWhere(count.alike, values.kind, path) })}>
                  {words.twice(format.number(count.twice))}
                </Link>
              ) : (
                words.twice(format.number(count.twice))
              )}
            </div>
          )}
          {values.retired && <div className="source">{words.retired}</div>}
        </td>
        {mayEdit && (
          <td className="ownacts">
            <Acts
              {...{ line, moving, acts }}
              of={field}
              isRetired={values.retired === true}
              onChange={() => setOpen({ section: section.id, field: id })}
              onSettle={() => setOpen({ section: section.id, field: id, isSetting: true })}
              elsewhere={declared ? elsewhere(declared, ownFieldName(id)) : []}
              onShow={(shown) =>
                declared &&
                settle({ shownIn: shownInOf(declared, { section: shown }) }, words.said.moved(name))
              }
            />
          </td>
        )}
      </tr>
      {isOpen && open.isSetting && declared && (
        <FormLine>
          <SettingForm
            section={declared}
            field={ownFieldName(id)}
            error={acts.setField.error}
            isBusy={acts.setField.isPending}
            onLeave={() => setOpen(null)}
            onSave={(said) => settle(said, words.said.changed(name))}
          />
        </FormLine>
      )}
      {isOpen && !open.isSetting && (
        <FormLine>
          <FieldForm
            now={field}
            sectionId={section.id}
            mayAsk={isOfOnePerson(section)}
            place={values.place}
            error={acts.change.error}
            isBusy={acts.change.isPending}
            onLeave={() => setOpen(null)}
            onSave={({ values: { kind: _, list: __, sectionId: ___, code: ____, ...asked } }, said) =>
              acts.change.mutate(
                { asked: [{ kind: 'own_field', of: field, values: asked }], text: words.said.changed(said) },
                { onSuccess: () => setOpen(null) },
              )
            }
          />
        </FormLine>
      )}
    </>
  );
};

// Who says one of some values, as a condition.
const alikeWhere = (alike: readonly string[], kind: OwnField['kind'], path: string): string =>
  `${path} in [${alike.map((text) => (kind === 'number' ? text : JSON.stringify(text))).join(', ')}]`;

type ActsProps = {
  line: Line;
  of: Definition<object>;
  isRetired: boolean;
  moving: Moving;
  acts: OwnActs;
  onChange: () => void;
  /** Says who sees it, and where; of a field. */
  onSettle?: () => void;
  /** Other sections that it can be shown in, as choices. */
  elsewhere?: readonly { section: string; label: string }[];
  onShow?: (section: string) => void;
};

const Acts = ({
  line,
  of,
  isRetired,
  moving,
  acts,
  onChange,
  onSettle,
  elsewhere = [],
  onShow,
}: ActsProps) => {
  const words = useWords(ownWords);
  const retire = (retired: boolean) =>
    acts.change.mutate({
      asked: [{ kind: line.kind, of, values: { retired: retired ? true : null } }],
      text: (retired ? words.said.retired : words.said.restored)(line.name),
    });
  return (
    <>
      {!isRetired && (
        <button
          type="button"
          className="textact"
          aria-label={`${words.change}: ${line.name}`}
          onClick={onChange}
        >
          {words.change}
        </button>
      )}
      {!isRetired && onSettle && (
        <button
          type="button"
          className="textact"
          aria-label={`${words.settings}: ${line.name}`}
          onClick={onSettle}
        >
          {words.settle}
        </button>
      )}
      <button
        type="button"
        className="textact"
        aria-label={`${isRetired ? words.restore : words.retire}: ${line.name}`}
        onClick={() => retire(!isRetired)}
      >
        {isRetired ? words.restore : words.retire}
      </button>
      <MoveTo
        name={line.name}
        others={moving.others(line).map(({ id, name }) => ({ id: String(id), name }))}
        sections={elsewhere}
        onMove={(target) =>
          'section' in target
            ? onShow?.(target.section)
            : moving.put(line, target.before === null ? null : Number(target.before))
        }
      />
    </>
  );
};
