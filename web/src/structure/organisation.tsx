import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useMay, useSession } from '../frame/session';
import { useWords } from '../texts/words';
import { useUnits } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { DescribeOrganisation } from './describe-organisation';
import { useListName, useLists } from './list-entries';
import { OrganisationRecord } from './organisation-record';
import { organisationWords } from './organisation-words';

const PATH = '/setup/organisation';

/** The organisation's settings, and beside them what is set up, in the order in which it is needed. */
export const OrganisationPage = () => {
  const words = useWords(organisationWords);
  const pageName = useNameOfPage(PATH);
  const { organisationId } = useSession();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const steps = useSteps();
  const wanted = fold(search).split(' ').filter(Boolean);
  const shown = steps.filter(({ name }) => wanted.every((word) => fold(name).includes(word)));
  const to = useTo();
  const items = grouped(
    shown,
    () => words.steps,
    ({ key, name, why, path, end, query }): Item => ({
      key,
      name,
      path,
      to: to(path, query),
      ...(why ? { about: why } : {}),
      end: end ?? <span className="ochre">{words.empty}</span>,
    }),
  );
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="setup" />}
      filters={{
        sentence: pageName,
        picks: [],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: words.done(steps.filter(({ end }) => end !== null).length, steps.length),
      }}
      error={null}
      list={<RecordList label={words.steps} items={items} open={PATH} empty={words.none} />}
      record={
        organisationId === null ? (
          <DescribeOrganisation />
        ) : (
          <OrganisationRecord key={organisationId} id={organisationId} />
        )
      }
      choose={null}
    />
  );
};

type Step = {
  key: string;
  name: string;
  path: string;
  query?: Record<string, string>;
  /** What waits for it, while it is empty. */
  why?: string | undefined;
  /** Null while nothing is there. */
  end: React.ReactNode;
};

// The organisation, what asks for it of lists, the first unit: each with how much there is.
const useSteps = (): Step[] => {
  const words = useWords(organisationWords);
  const { organisationId } = useSession();
  const may = useMay();
  const { isToday } = useLens();
  const nameOf = useListName();
  const isGerman = useTranslation().i18n.language === 'de';
  const lists = useLists() ?? [];
  const units = useUnits();
  const count = (n: number) => (n > 0 ? <span className="n soft">{n}</span> : null);
  const asked = may.keep('list_entry') ? lists.filter(({ list }) => list.asks) : [];
  return [
    {
      key: 'organisation',
      name: words.organisation,
      path: PATH,
      end: organisationId === null ? null : <span className="soft">{words.described}</span>,
    },
    ...asked.map(({ list, entries }) => ({
      key: list.id,
      name: nameOf(list),
      path: `/setup/lists/${list.id}`,
      ...(entries.length === 0 && isToday ? { query: { add: '1' } } : {}),
      why: entries.length === 0 ? (isGerman ? list.asks?.de : list.asks?.en) : undefined,
      end: count(entries.length),
    })),
    { key: 'unit', name: words.unit, path: '/structure/outline', end: count(units?.length ?? 0) },
  ];
};
