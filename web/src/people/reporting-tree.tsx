import { type PersonLine, peopleEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, type To } from 'react-router';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { listViewWords } from '../lists/list-view-words';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { readsOf } from '../time/touched';
import { Monogram } from '../ui/monogram';
import { Problems } from '../ui/problems';
import { useStatusSaid } from './status-said';

const useReporting = (under: number | null) => {
  const { query } = useLens();
  return useQuery({
    queryKey: ['people-tree', query, under],
    queryFn: () =>
      call(peopleEndpoints.reportingTree, { query: { ...query, ...(under === null ? {} : { under }) } }),
    meta: { reads: readsOf('person').reads },
  });
};

type TreeProps = { to: (line: PersonLine) => To };

/** Who reports to whom, from those who report to nobody the viewer sees; each is unfolded. */
export const ReportingTree = ({ to }: TreeProps) => {
  const words = useWords(listViewWords);
  const tops = useReporting(null);
  if (tops.error) return <Problems of={tops.error} />;
  const people = tops.data?.people ?? [];
  return (
    <div className="reportingtree">
      <p className="soft">{words.treeAll}</p>
      {tops.data && people.length === 0 && <div className="empty">{words.treeEmpty}</div>}
      {/* one alone at the top is unfolded */}
      <Branch people={people} depth={0} to={to} isOpen={people.length === 1} />
    </div>
  );
};

type Line = PersonLine & { reports: number };
type BranchProps = TreeProps & { people: readonly Line[]; depth: number; isOpen?: boolean };

const Branch = ({ people, depth, to, isOpen = false }: BranchProps) => (
  <ul>
    {people.map((line) => (
      <Node key={line.id} {...{ line, depth, to, isOpen }} />
    ))}
  </ul>
);

type NodeProps = TreeProps & { line: Line; depth: number; isOpen: boolean };

const Node = ({ line, depth, to, isOpen }: NodeProps) => {
  const words = useWords(listViewWords);
  const format = useFormat();
  const endOf = useStatusSaid();
  const [isUnfolded, setUnfolded] = useState(isOpen);
  return (
    <li>
      <div className="treeline" style={{ paddingLeft: 8 + depth * 22 }}>
        {line.reports > 0 ? (
          <button
            type="button"
            className="fold"
            aria-expanded={isUnfolded}
            aria-label={words.unfold(line.name)}
            onClick={() => setUnfolded(!isUnfolded)}
          >
            {isUnfolded ? '▾' : '▸'}
          </button>
        ) : (
          <span className="fold" />
        )}
        <Monogram name={line.name} size={26} />
        <Link to={to(line)}>{line.name}</Link>
        <span className="soft">{[line.title, line.unit].filter(Boolean).join(', ')}</span>
        <span className="soft n">
          {line.reports > 0 ? words.reports(line.reports, format.number(line.reports)) : endOf(line)}
        </span>
      </div>
      {isUnfolded && <Below of={line.id} depth={depth + 1} to={to} />}
    </li>
  );
};

const Below = ({ of, depth, to }: TreeProps & { of: number; depth: number }) => {
  const below = useReporting(of);
  if (below.error) return <Problems of={below.error} />;
  return <Branch people={below.data?.people ?? []} depth={depth} to={to} />;
};
