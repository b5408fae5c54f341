import '../lists/lists.css';
import './access.css';
import { fold } from '@gremium/core';
import { Link, useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useWords } from '../texts/words';
import { wholeCatalogue } from '../time/catalogue-now';
import { useReference } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { isRetiredRole, roleCodes, roleLabel, useAccounts, useRoleName } from './access.queries';
import { accessWords } from './access-words';
import { RoleSheet } from './role-sheet';
import { LEVELS, formOf, levelIn, sectionsByGroup } from './role-sense';

const PATH = '/setup/roles';
/** What stands in the address for a role that is being made. */
const NEW = '-new';

/** The roles there are: what each gives, section by section; own ones made, copied and changed. */
export const RolesPage = () => {
  const words = useWords(accessWords);
  const pageName = useNameOfPage(PATH);
  const nameOf = useRoleName();
  const { role: open } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const to = useTo();
  const rows = useReference();
  const { data: accounts, error } = useAccounts();
  if (!rows) return null;
  const { own, shipped } = roleCodes();
  const [retired, given] = [own.filter(isRetiredRole), own.filter((code) => !isRetiredRole(code))];
  const holders = (role: string): number =>
    (accounts ?? []).filter((account) => account.roles.some((gift) => gift.role === role)).length;
  const isMeant = (code: string) => fold(`${nameOf(code)} ${code}`).includes(fold(search));
  const items = grouped(
    [...given, ...shipped, ...retired].filter(isMeant),
    (code) => (isRetiredRole(code) ? words.retiredOnes : own.includes(code) ? words.own : words.shipped),
    (code): Item => ({
      key: code,
      path: `${PATH}/${code}`,
      to: to(`${PATH}/${code}`, search ? { search } : {}),
      name: nameOf(code),
      about: accounts ? words.holders(holders(code)) : '',
      end: <Silhouette role={code} />,
    }),
  );
  const isNew = open === NEW;
  const isKnown = open !== undefined && (own.includes(open) || shipped.includes(open));
  const from = params.get('copy');
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="setup" />}
      filters={{
        sentence: pageName,
        picks: [],
        search: { value: search, label: words.searchRoles, onChange: (text) => set({ search: text }) },
        count: words.counted(own.length + shipped.length, own.length),
      }}
      error={error}
      list={
        <RecordList
          label={pageName}
          items={items}
          open={open ? `${PATH}/${open}` : ''}
          empty={words.noRoles}
        />
      }
      record={
        isKnown || isNew ? (
          <RoleSheet
            key={`${open} ${from ?? ''}`}
            code={isNew ? null : open}
            copied={isNew ? from : null}
            accounts={accounts ?? []}
          />
        ) : null
      }
      choose={words.chooseRole}
      foot={<AddRole />}
    />
  );
};

const AddRole = () => {
  const words = useWords(accessWords);
  const to = useTo();
  return (
    <p className="listfoot">
      <Link className="textact" to={to(`${PATH}/${NEW}`)}>
        {words.addRole}
      </Link>{' '}
      <span className="soft">{words.addLine}</span>
    </p>
  );
};

// Levels as bars, section by section: what a role looks like from afar.
const Silhouette = ({ role }: { role: string }) => {
  const catalogue = wholeCatalogue();
  const form = formOf(role, roleLabel(role), catalogue);
  const levels = sectionsByGroup(catalogue)
    .flatMap(([, sections]) => sections)
    .map((one) => LEVELS.indexOf(levelIn(form, one)));
  const width = levels.length;
  return (
    <svg className="silhouette" viewBox={`0 0 ${width} 12`} preserveAspectRatio="none" aria-hidden="true">
      {levels.map((level, i) =>
        level > 0 ? <rect key={i} x={i} y={12 - level * 4} width={0.7} height={level * 4} /> : null,
      )}
    </svg>
  );
};
