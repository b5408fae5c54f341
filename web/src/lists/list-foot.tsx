import { type ReportKept, type ViewDefinition } from '@gremium/contract';
import { Popover } from 'antd';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useGo, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { encodeView } from '../reports/definition';
import { useKeepReport, useShelf } from '../reports/reports.queries';
import { SaveForm } from '../reports/save-report';
import { useWords } from '../texts/words';
import type { ListView, Listed, Shape } from './list-view';
import { listViewWords } from './list-view-words';

type FootProps = { listed: Listed; list: ListView };

/** Under a list: as what it is shown, the views that are kept, and the way to keep this one. */
export const ListFoot = ({ listed, list }: FootProps) => {
  const words = useWords(listViewWords);
  const { id } = useParams();
  const may = useMay();
  const go = useGo();
  // a record that is open stands beside the list: the other shapes have the sheet to themselves
  const show = (shape: Shape) => {
    if (id === undefined) list.setShape(shape);
    else go(listed.path, { ...list.kept, as: shape === 'list' ? null : shape });
  };
  return (
    <footer className="listfoot">
      <span role="group" aria-label={words.shownAs}>
        {listed.shapes.map((shape) => (
          <button
            key={shape}
            type="button"
            className={shape === list.shape && id === undefined ? 'textact on' : 'textact'}
            aria-pressed={shape === list.shape && id === undefined}
            onClick={() => show(shape)}
          >
            {words.shapes[shape]}
          </button>
        ))}
      </span>
      {may.count && <KeptViews {...{ listed, list }} />}
    </footer>
  );
};

// Reports about the same are views of the list: own ones, those shared, those that are shipped.
const KeptViews = ({ listed, list }: FootProps) => {
  const words = useWords(listViewWords);
  const to = useTo();
  const [isOpen, setOpen] = useState(false);
  const [isKeeping, setKeeping] = useState(false);
  const [said, setSaid] = useState('');
  const shelf = useShelf(isOpen);
  const { save } = useKeepReport();
  const fitting = (shelf.data?.reports ?? []).filter(
    ({ view, deletedAt }) => view.subject === listed.subject && deletedAt === null,
  );
  const shape = list.shape === 'tree' ? 'list' : list.shape;
  const view: ViewDefinition = { ...list.view, as: shape };
  const keep = (kept: ReportKept) =>
    save.mutate(
      { id: null, kept },
      {
        onSuccess: ({ name }) => {
          setKeeping(false);
          setSaid(words.kept(name));
        },
      },
    );
  return (
    <>
      <Popover
        trigger="click"
        open={isOpen}
        onOpenChange={setOpen}
        placement="topLeft"
        content={
          <div className="keptviews">
            {shelf.data && fitting.length === 0 && <p className="soft">{words.viewsNone}</p>}
            <ul className="plainlist">
              {fitting.map((one) => (
                <li key={one.id}>
                  <button
                    type="button"
                    className="textact"
                    onClick={() => {
                      setOpen(false);
                      list.openView(one.view);
                    }}
                  >
                    {one.name}
                  </button>{' '}
                  <span className="source">{one.folder}</span>
                </li>
              ))}
            </ul>
            <p>
              <button
                type="button"
                className="textact"
                onClick={() => {
                  setOpen(false);
                  setKeeping(true);
                }}
              >
                {words.keep}
              </button>{' '}
              <Link className="textact" to={to('/reports/list', { view: encodeView(view) })}>
                {words.asReport}
              </Link>
            </p>
          </div>
        }
      >
        <button type="button" className="textact">
          {words.views}
        </button>
      </Popover>
      {said && (
        <span className="moss" role="status">
          {said}
        </span>
      )}
      {isKeeping && (
        <SaveForm
          kept={undefined}
          view={view}
          error={save.error}
          isBusy={save.isPending}
          onSave={keep}
          onLeave={() => setKeeping(false)}
        />
      )}
    </>
  );
};
