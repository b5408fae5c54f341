// One role: what it gives, section by section; read back in sentences; who has it. Own ones are changed here.
import {
  type AccountOut,
  type Level,
  type OwnRole,
  type Section,
  type SectionName,
  Act,
} from '@gremium/contract';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useGo, useTo } from '../frame/lens';
import { useMay, useSession } from '../frame/session';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { latestRows, wholeCatalogue } from '../time/catalogue-now';
import { type Said, SaidLine } from '../time/said-line';
import { useReference } from '../time/time.queries';
import { refreshTouched } from '../time/touched';
import { changeThing, lastEntryOf, makeThing } from '../time/write-record';
import { useFieldName } from '../ui/field-name';
import { Problems } from '../ui/problems';
import { useSectionName } from '../ui/section-name';
import { isRetiredRole, roleLabel, useAccountAct, useRoleName } from './access.queries';
import { accessWords } from './access-words';
import {
  LEVELS,
  type RoleForm,
  byLevel,
  codeOf,
  differences,
  formOf,
  kept,
  levelIn,
  noRole,
  sectionsByGroup,
} from './role-sense';

type Props = {
  /** Null of one that is being made. */
  code: string | null;
  /** The role it is made of. */
  copied: string | null;
  accounts: readonly AccountOut[];
};

/** A role as a sheet. */
export const RoleSheet = ({ code, copied, accounts }: Props) => {
  const words = useWords(accessWords);
  const may = useMay();
  const { viewer } = useSession();
  const catalogue = wholeCatalogue();
  const before = useBefore(code, copied);
  const [form, setForm] = useState<RoleForm>(before);
  const [done, setDone] = useState<Said | null>(null);
  const save = useSaving(code, form, setDone);
  const roleName = useRoleName();
  // what is being typed of it stays typed, and is not its name yet
  const retire = (isRetired: boolean) =>
    save.mutate({
      values: { retired: isRetired ? true : null },
      said: () => (isRetired ? words.roleRetired : words.roleRestored)(roleName(code ?? '')),
    });
  const isOwn = code === null || catalogue.roles.has(code);
  const holders = accounts.filter(({ roles }) => roles.some(({ role }) => role === code));
  const isHeld = holders.some(({ id }) => id === viewer.account);
  const mayEdit = isOwn && !isHeld && may.edit('role') && may.do({ everywhere: 'access' });
  const change = (next: Partial<RoleForm>) => setForm({ ...form, ...next });
  const differ = differences(code === null ? noRole() : before, form, catalogue);
  const isChanged = code === null ? form.label.en.trim() !== '' : !differ.isSame;
  return (
    <main className="record role">
      <div className="rolesides">
        <div className="rolemain">
          <RoleHead {...{ form, code, isOwn, isHeld, mayEdit, change, retire }} />
          {done && <SaidLine {...done} />}
          <Problems of={save.error} />
          <Levels {...{ form, mayEdit, change }} />
        </div>
        <aside className="roleaside">
          <Acts {...{ form, mayEdit, change }} />
          <ReadBack form={form} />
          {code !== null && <Holders of={holders} role={code} />}
        </aside>
      </div>
      {mayEdit && isChanged && (
        <footer className="rolefoot">
          <span>
            <strong>{words.differs(differ.sections, differ.acts)}</strong> {words.forWhom(holders.length)}
          </span>
          <button type="button" className="textact" onClick={() => setForm(before)}>
            {words.discard}
          </button>
          <Button
            type="primary"
            loading={save.isPending}
            onClick={() => save.mutate({ values: keptOf(form), said: words.savedRole })}
          >
            {code === null ? words.makeRole : words.saveRole}
          </Button>
        </footer>
      )}
    </main>
  );
};

const useBefore = (code: string | null, copied: string | null): RoleForm => {
  const catalogue = wholeCatalogue();
  if (code !== null) return formOf(code, roleLabel(code), catalogue);
  if (copied === null) return noRole();
  const { en, de } = roleLabel(copied);
  const label = { en: accessWords.en.copyOf(en), de: accessWords.de.copyOf(de) };
  return { ...formOf(copied, label, catalogue), code: '' };
};

type Asked = { values: Partial<OwnRole>; said: (name: string) => string };

// A new role is made, an own one is mended: of each the latest says what it gives.
const useSaving = (code: string | null, { label, ...form }: RoleForm, onSaid: (said: Said) => void) => {
  const rows = useReference();
  const queries = useQueryClient();
  const go = useGo();
  const { i18n } = useTranslation();
  const own = form.code.trim() || codeOf(label.en.trim());
  return useAccountAct(async ({ values, said }: Asked) => {
    const there = [...latestRows(rows ?? [], 'role').values()].find((row) => row.values['code'] === code);
    const made = there
      ? await changeThing('role', {
          id: there.thing,
          basedOn: (await lastEntryOf('role', there.thing)) ?? 0,
          edit: { mode: 'mend', row: there.id, values },
        })
      : await makeThing('role', { ...values, code: own, note: null, retired: null }, null);
    await refreshTouched(queries, ['role'] as never);
    onSaid({ text: said(i18n.language === 'de' ? label.de || label.en : label.en), entry: made.entry });
    if (code === null) go(`/setup/roles/${own}`);
  });
};

// What is kept of a form but its code, which stays; names without blanks around them, the German one as the English one where there is none.
const keptOf = (form: RoleForm): Partial<OwnRole> => {
  const label = { en: form.label.en.trim(), de: form.label.de.trim() || form.label.en.trim() };
  const { code: _, ...values } = kept({ ...form, label }, wholeCatalogue());
  return values;
};

type Part = { form: RoleForm; mayEdit: boolean; change: (next: Partial<RoleForm>) => void };

const RoleHead = ({
  form,
  code,
  isOwn,
  isHeld,
  mayEdit,
  change,
  retire,
}: Part & {
  code: string | null;
  isOwn: boolean;
  isHeld: boolean;
  retire: (isRetired: boolean) => void;
}) => {
  const words = useWords(accessWords);
  const { i18n } = useTranslation();
  const may = useMay();
  const go = useGo();
  const { label } = form;
  const isNew = code === null;
  const isRetired = !isNew && isRetiredRole(code);
  return (
    <header className="rolehead">
      <div className="roletitle">
        <h1>{(i18n.language === 'de' ? label.de : label.en) || words.isNew}</h1>
        {!isNew && may.edit('role') && (
          <button type="button" className="textact" onClick={() => go('/setup/roles/-new', { copy: code })}>
            {words.copy}
          </button>
        )}
        {!isNew && mayEdit && (
          <button
            type="button"
            className="textact"
            title={words.retiredHelp}
            onClick={() => retire(!isRetired)}
          >
            {isRetired ? words.restore : words.retire}
          </button>
        )}
      </div>
      <p className="soft">
        {isNew ? words.isNew : isOwn ? words.isOwn(code) : words.isPreset}
        {isRetired && ` · ${words.retired}. ${words.retiredHelp}`}
        {isHeld && isOwn && <span className="ochre"> {words.heldByYou}</span>}
      </p>
      {mayEdit && (
        <div className="roleinputs">
          <label>
            <span>{words.name}</span>
            <Input
              variant="underlined"
              value={label.en}
              onChange={(event) => change({ label: { ...label, en: event.target.value } })}
            />
          </label>
          <label>
            <span>{words.nameDe}</span>
            <Input
              variant="underlined"
              value={label.de}
              onChange={(event) => change({ label: { ...label, de: event.target.value } })}
            />
          </label>
          {isNew && (
            <label>
              <span>{words.code}</span>
              <Input
                variant="underlined"
                value={form.code}
                placeholder={codeOf(label.en)}
                onChange={(event) => change({ code: event.target.value })}
              />
            </label>
          )}
        </div>
      )}
    </header>
  );
};

const Levels = ({ form, mayEdit, change }: Part) => {
  const words = useWords(accessWords);
  const { t } = useTranslation();
  const nameOf = useSectionName();
  const set = (name: string, level: Level) => change({ levels: { ...form.levels, [name]: level } });
  return (
    <table className="levels">
      <thead>
        <tr>
          <th scope="col">{words.section}</th>
          <th scope="col" className="levelheads">
            {LEVELS.map((level) => (
              <span key={level}>{t(`choice.${level}`)}</span>
            ))}
          </th>
          <th scope="col">{words.hidden}</th>
        </tr>
      </thead>
      <tbody>
        <tr className="others">
          <th scope="row">{words.others}</th>
          <td>
            <LevelInput
              label={words.others}
              level={form.others}
              mayEdit={mayEdit}
              onChange={(others) => change({ others })}
            />
          </td>
          <td />
        </tr>
      </tbody>
      {sectionsByGroup(wholeCatalogue()).map(([group, sections]) => (
        <tbody key={group}>
          <tr className="levelgroup">
            <th scope="colgroup" colSpan={3}>
              {words.groups[group]}
            </th>
          </tr>
          {sections.map((section) => (
            <tr key={section.name}>
              <th scope="row">
                {nameOf(section.name as SectionName)}{' '}
                {section.sensitive && <em className="soft">{words.byName}</em>}
              </th>
              <td>
                <LevelInput
                  label={nameOf(section.name as SectionName)}
                  level={levelIn(form, section)}
                  mayEdit={mayEdit}
                  onChange={(level) => set(section.name, level)}
                />
              </td>
              <td>
                <Hidden {...{ form, mayEdit, change, section }} />
              </td>
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  );
};

type LevelProps = { label: string; level: Level; mayEdit: boolean; onChange: (level: Level) => void };

// A line inked as far as the right goes; the keys 0 to 3, or the arrows, set it.
const LevelInput = ({ label, level, mayEdit, onChange }: LevelProps) => {
  const { t } = useTranslation();
  const at = LEVELS.indexOf(level);
  return (
    <div
      className="levelline"
      role="radiogroup"
      aria-label={label}
      onKeyDown={({ key }) => {
        const wanted = LEVELS[Number(key)];
        if (mayEdit && /^[0-3]$/.test(key) && wanted) onChange(wanted);
      }}
    >
      <span className="inked" style={{ width: `${(at / 3) * 75}%` }} />
      {LEVELS.map((one, i) => (
        <label key={one} className={i === at ? 'on' : ''}>
          <input
            type="radio"
            checked={i === at}
            disabled={!mayEdit}
            aria-label={t(`choice.${one}`)}
            onChange={() => onChange(one)}
          />
        </label>
      ))}
    </div>
  );
};

// Fields of a section that the role does not show, and whether its past follows the person.
const Hidden = ({ form, mayEdit, change, section }: Part & { section: Section }) => {
  const words = useWords(accessWords);
  const fieldName = useFieldName();
  const [isOpen, setOpen] = useState(false);
  if (levelIn(form, section) === 'none') return null;
  const name = section.name as SectionName;
  const own = form.hides.filter((field) => field.startsWith(`${name}.`));
  const nameOf = (field: string) => fieldName(name, field.slice(name.length + 1));
  const isOfPeople = section.owner !== null || ['person', 'employment', 'placement'].includes(section.kind);
  const follows = form.follows.includes(name);
  const setFollows = (isFollowing: boolean) =>
    change({ follows: isFollowing ? [...form.follows, name] : form.follows.filter((one) => one !== name) });
  return (
    <div className="hiddenfields">
      {own.map((field) => (
        <s key={field}>{nameOf(field)}</s>
      ))}
      {follows && <span className="soft">{words.follows}</span>}
      {mayEdit && !isOpen && (
        <button
          type="button"
          className="textact quiet"
          aria-label={`${section.name}: ${words.hide}`}
          onClick={() => setOpen(true)}
        >
          {words.hide}
        </button>
      )}
      {mayEdit && isOpen && (
        <>
          <Select
            mode="multiple"
            autoFocus
            variant="underlined"
            aria-label={words.hidden}
            className="line-input"
            value={own}
            options={[...section.metas.keys()]
              .filter((field) => field !== section.owner?.field)
              .map((field) => ({ value: `${name}.${field}`, label: fieldName(name, field) }))}
            onChange={(chosen: string[]) =>
              change({ hides: [...form.hides.filter((field) => !own.includes(field)), ...chosen] })
            }
          />
          {isOfPeople && (
            <Checkbox checked={follows} onChange={(event) => setFollows(event.target.checked)}>
              <span title={words.followsHelp}>{words.follows}</span>
            </Checkbox>
          )}
        </>
      )}
    </div>
  );
};

const Acts = ({ form, mayEdit, change }: Part) => {
  const words = useWords(accessWords);
  const { t } = useTranslation();
  return (
    <section aria-labelledby="acts">
      <h2 id="acts">
        {words.acts} <span className="soft">{words.actsCount(form.acts.length, Act.options.length)}</span>
      </h2>
      <div className="acts">
        {Act.options.map((act) => (
          <Checkbox
            key={act}
            disabled={!mayEdit}
            checked={form.acts.includes(act)}
            onChange={({ target }) =>
              change({
                acts: target.checked ? [...form.acts, act] : form.acts.filter((other) => other !== act),
              })
            }
          >
            {t(`choice.${act as keyof Texts['choice']}`)}
          </Checkbox>
        ))}
      </div>
    </section>
  );
};

const MOST_NAMED = 9;

const ReadBack = ({ form }: { form: RoleForm }) => {
  const words = useWords(accessWords);
  const { t } = useTranslation();
  const nameOf = useSectionName();
  const fieldName = useFieldName();
  const levels = byLevel(form, wholeCatalogue());
  const listed = (names: readonly SectionName[]): string => {
    if (names.length === 0) return words.nothing;
    const said = names.slice(0, MOST_NAMED).map(nameOf).join(', ');
    return names.length > MOST_NAMED ? `${said} ${words.allElse(names.length - MOST_NAMED)}` : said;
  };
  const hidden = form.hides.map((field) => {
    const at = field.lastIndexOf('.');
    return fieldName(field.slice(0, at) as SectionName, field.slice(at + 1));
  });
  return (
    <section aria-labelledby="readback" className="readback">
      <h2 id="readback">{words.readBack}</h2>
      <p>
        <strong>{words.sees}</strong> {listed(levels.view)}
        {hidden.length > 0 && `, ${words.without(hidden.join(', '))}`}.
      </p>
      {levels.propose.length > 0 && (
        <p>
          <strong>{words.proposes}</strong> {listed(levels.propose)}.
        </p>
      )}
      <p>
        <strong>{words.changes}</strong> {listed(levels.edit)}.
      </p>
      <p>
        <strong>{words.may}</strong>{' '}
        {form.acts.map((act) => t(`choice.${act as keyof Texts['choice']}`)).join(', ') || words.noActs}.
      </p>
      <p>
        <strong>{words.never}</strong> {listed(levels.none)}.
      </p>
    </section>
  );
};

const Holders = ({ of, role }: { of: readonly AccountOut[]; role: string }) => {
  const words = useWords(accessWords);
  const { i18n } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const nameOf = useRoleName();
  return (
    <section aria-labelledby="holders" title={nameOf(role)}>
      <h2 id="holders">{words.whoHas}</h2>
      {of.length === 0 && <p className="soft">{words.nobodyHas}</p>}
      <ul className="plainlist">
        {of.flatMap((account) =>
          account.roles
            .filter((gift) => gift.role === role)
            .map((gift, i) => (
              <li key={`${account.id} ${i}`}>
                <Link to={to(`/setup/access/${account.id}`)}>{account.name}</Link>
                <span className="soft">
                  {i18n.language === 'de' ? gift.said.de : gift.said.en}
                  {gift.lastDay && ` ${words.lastDay(format.day(gift.lastDay))}`}
                </span>
              </li>
            )),
        )}
      </ul>
    </section>
  );
};
