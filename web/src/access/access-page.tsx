import '../lists/lists.css';
import './access.css';
import { type AccountOut, AccountState } from '@gremium/contract';
import { fold } from '@gremium/core';
import { useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useWords } from '../texts/words';
import { useReference } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { letsIn, useAccounts, useRoleName } from './access.queries';
import { accessWords } from './access-words';
import { AccountSheet, NewAccount } from './account-sheet';

const PATH = '/setup/access';
const NEW = '-new';

/** Everybody with an account: how it stands with it, the roles given to it, what it sees. */
export const AccessPage = () => {
  const words = useWords(accessWords);
  const pageName = useNameOfPage(PATH);
  const { t } = useTranslation();
  const { id: open } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const to = useTo();
  const search = params.get('search') ?? '';
  const rows = useReference();
  const { data: accounts, error } = useAccounts();
  const items = useItems(accounts ?? [], search);
  const found = accounts?.find(({ id }) => String(id) === open);
  const administrators = (accounts ?? []).filter(
    ({ state, roles }) =>
      state === 'active' && roles.some(({ role, scope }) => letsIn(role) && scope.type === 'all'),
  ).length;
  if (!rows) return null;
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="setup" />}
      filters={{
        sentence: words.everybody,
        picks: [],
        search: { value: search, label: words.searchAccounts, onChange: (text) => set({ search: text }) },
        count: accounts ? counted(accounts, words) : t('waiting'),
      }}
      error={error}
      list={
        accounts && (
          <RecordList
            label={pageName}
            items={items}
            open={open ? `${PATH}/${open}` : ''}
            empty={words.noAccounts}
          />
        )
      }
      record={open === NEW ? <NewAccount /> : found ? <AccountSheet key={found.id} account={found} /> : null}
      choose={words.chooseAccount}
      foot={
        <p className="listfoot">
          <Link className="textact" to={to(`${PATH}/${NEW}`)}>
            {words.addPeople}
          </Link>{' '}
          <span className="soft">{words.administrators(administrators)}</span>
        </p>
      }
    />
  );
};

const counted = (accounts: readonly AccountOut[], words: (typeof accessWords)['en']): string =>
  AccountState.options
    .map((state) => [state, accounts.filter((one) => one.state === state).length] as const)
    .filter(([, n]) => n > 0)
    .map(([state, n]) => `${words.states[state].toLowerCase()} ${n}`)
    .join(' · ');

const useItems = (accounts: readonly AccountOut[], search: string): Item[] => {
  const words = useWords(accessWords);
  const to = useTo();
  const { i18n } = useTranslation();
  const roleName = useRoleName();
  const wanted = fold(search).split(' ').filter(Boolean);
  const isMeant = ({ name, email }: AccountOut) =>
    wanted.every((word) => fold(`${name} ${email}`).includes(word));
  const inOrder = AccountState.options.flatMap((state) =>
    accounts.filter((one) => one.state === state && isMeant(one)),
  );
  return grouped(
    inOrder,
    ({ state }) => words.states[state],
    ({ id, name, roles }): Item => ({
      key: String(id),
      path: `${PATH}/${id}`,
      to: to(`${PATH}/${id}`, search ? { search } : {}),
      name,
      about: roles
        .map(({ role, said }) => `${roleName(role)}, ${i18n.language === 'de' ? said.de : said.en}`)
        .join('; '),
    }),
  );
};
