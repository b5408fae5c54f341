// The sheet of a record, declared by its kind: a head, parts in the order of reading with an index, what happened beside them.
import type { Kind, RecordOut, SectionName } from '@gremium/contract';
import type { Register } from '@gremium/core';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { ActButtons } from '../movements/act-buttons';
import { useFormat } from '../texts/format';
import { type Act, type Begun, useActs } from '../movements/acts';
import { type Edits, useEdits } from '../time/edits';
import { SaveBar } from '../time/save-bar';
import { SavedLine } from '../time/saved-line';
import type { NameOf } from '../time/time.queries';
import type { Showing } from './field-value';
import { BroughtFields, isBrought } from './brought-fields';
import { shownFieldsOf } from './fields';
import { useSeen } from './last-seen';
import { useMay } from '../frame/session';
import { catalogueNow, ownSectionOf } from '../time/catalogue-now';
import { type Editing, SeveralSection, type Version, useEditing } from './record-section';
import { useSectionName } from './section-name';
import { TableSection } from './table-section';

/** A record once it is read, with its versions as a register. */
export type Loaded<R extends RecordOut = RecordOut> = {
  id: number;
  record: R;
  register: Register;
  nameOf: NameOf;
};

/** What the parts of a record are made with. */
export type RecordContext = {
  edits: Edits;
  editing: Editing;
  showing: Showing;
  acts: readonly Act[];
  /** What the record is called, on the day looked at. */
  name: string;
  /** Whose record it is. */
  of: { kind: Kind; id: number };
  rows: RecordOut['rows'];
  entries: RecordOut['entries'];
};

/** A part of a sheet; `id` is where the index leads. */
export type RecordPart = { id: string; label: string; content: React.ReactNode; mark?: PartMark | undefined };

/** How many there are in a part, and whether something in it runs out or is over. */
export type PartMark = { count: number; tone: 'over' | 'due' | null };

type SheetProps = {
  head: (acts: React.ReactNode) => React.ReactNode;
  context: RecordContext;
  parts: readonly (RecordPart | null | false)[];
  /** What happened, beside the parts. */
  beside?: React.ReactNode;
};

/** Edits of a record, what its sections are shown with, and what can be begun from it. */
export const useRecord = (
  kind: Kind,
  { id, record, register, nameOf }: Loaded,
  begun: Omit<Begun, 'kind' | 'id'>,
): RecordContext => {
  const edits = useEdits(kind, id);
  useSeen(kind, id);
  return {
    edits,
    editing: useEditing({ record, edits }),
    showing: { register, nameOf },
    acts: useActs({ kind, id, ...begun }),
    name: begun.name,
    of: { kind, id },
    rows: record.rows,
    entries: record.entries,
  };
};

/** The sheet of a record: what it is, what can be begun from it, its parts, and the bar that saves. */
export const RecordSheet = ({ head, context, parts, beside }: SheetProps) => {
  const { edits, acts, name, entries } = context;
  const own = useOwnParts(context);
  const there = parts.filter((part): part is RecordPart => Boolean(part));
  const brought = useBroughtParts(context, [...there, ...own]);
  const shown = withOwn(there, [...own, ...brought]);
  return (
    <main className="record">
      <Headline name={name} acts={acts} />
      {head(<ActButtons acts={acts} isBusy={edits.edits.length > 0} />)}
      <div className={beside ? 'threeparts' : 'twoparts'}>
        <RecordIndex parts={shown} edits={edits} />
        <div className="recordbody">
          {shown.map(({ id: part, content }) => (
            <div key={part} id={`part-${part}`}>
              {content}
              <BroughtFields into={part as SectionName} {...context} />
            </div>
          ))}
        </div>
        {beside}
      </div>
      <SavedLine edits={edits} entries={entries} name={name} />
      <SaveBar edits={edits} />
    </main>
  );
};

// The organisation's own sections of the kind of thing: where something is recorded, or may be.
const useOwnParts = (context: RecordContext): RecordPart[] => {
  const may = useMay();
  const nameOf = useSectionName();
  const { of, rows, edits } = context;
  return catalogueNow()
    .belongingTo(of.kind)
    .filter((section) => ownSectionOf(section) && may.view(section))
    .flatMap((section) => {
      const versions = rows.filter((row) => row.section === section) as Version[];
      const isOpen = edits.edits.some((edit) => edit.section === section);
      const mayAdd = may.edit(section) && ownSectionOf(section)?.retired !== true;
      if (versions.length === 0 && !isOpen && !mayAdd) return [];
      const several = catalogueNow().section(section).several;
      const isEmpty = shownFieldsOf(section).length === 0;
      if (isEmpty && !isBrought(section, may.view)) return [];
      const content = isEmpty ? (
        <Named section={section} />
      ) : several ? (
        <TableSection section={section} versions={versions} owner={of.id} {...context} />
      ) : (
        <SeveralSection section={section} versions={versions} owner={of.id} isAlone {...context} />
      );
      return [{ id: section, label: nameOf(section), content }];
    });
};

const Named = ({ section }: { section: SectionName }) => {
  const nameOf = useSectionName();
  return (
    <section className="block">
      <h2>{nameOf(section)}</h2>
    </section>
  );
};

// Sections that have no part here, and show fields of others.
const useBroughtParts = ({ of }: RecordContext, there: readonly RecordPart[]): RecordPart[] => {
  const may = useMay();
  const nameOf = useSectionName();
  const catalogue = catalogueNow();
  return [...catalogue.of(of.kind), ...catalogue.belongingTo(of.kind)]
    .filter((section) => !there.some(({ id }) => id === section) && isBrought(section, may.view))
    .map((section) => ({ id: section, label: nameOf(section), content: <Named section={section} /> }));
};

// They stand after what is preset, before what is also kept.
const withOwn = (parts: RecordPart[], own: readonly RecordPart[]): RecordPart[] => {
  const more = parts.findIndex(({ id }) => id === 'more');
  return more < 0 ? [...parts, ...own] : [...parts.slice(0, more), ...own, ...parts.slice(more)];
};

/** Whose record it is and what can be begun, in one line that stays once the head has gone up out of view. */
const Headline = ({ name, acts }: Pick<RecordContext, 'name' | 'acts'>) => {
  const box = useRef<HTMLDivElement>(null);
  const [isOut, setOut] = useState(false);
  useEffect(() => {
    const sheet = box.current?.parentElement;
    if (!sheet) return;
    const look = () => {
      const head = sheet.querySelector('.recordhead');
      if (head) setOut(head.getBoundingClientRect().bottom < sheet.getBoundingClientRect().top + 8);
    };
    sheet.addEventListener('scroll', look, { passive: true });
    return () => sheet.removeEventListener('scroll', look);
  }, []);
  return (
    <div className="headline" ref={box} aria-hidden={!isOut}>
      {isOut && (
        <div>
          <span className="serif">{name}</span>
          {acts.map(({ kind, label, start }) => (
            <button key={kind} type="button" className="textact" tabIndex={-1} onClick={start}>
              {label}
            </button>
          ))}
        </div>
      )}
    </div>
  );
};

const RecordIndex = ({ parts, edits }: { parts: readonly RecordPart[]; edits: Edits }) => {
  const { t } = useTranslation();
  const format = useFormat();
  return (
    <div className="index">
      <nav aria-label={t('record.index')}>
        {parts.map(({ id, label, mark }) => (
          <a
            key={id}
            href={`#part-${id}`}
            className={edits.edits.some((edit) => edit.section === id) ? 'unsaved' : undefined}
            onClick={(event) => {
              event.preventDefault();
              document.getElementById(`part-${id}`)?.scrollIntoView({ block: 'start' });
            }}
          >
            {label}
            {mark && mark.count > 1 && <span className="soft n"> {format.number(mark.count)}</span>}
            {mark?.tone && (
              <span
                className={mark.tone === 'over' ? 'wrong' : 'ochre'}
                title={t(`record.index_${mark.tone}`)}
              >
                {' '}
                <span aria-hidden>!</span>
                <span className="hidden">{t(`record.index_${mark.tone}`)}</span>
              </span>
            )}
          </a>
        ))}
      </nav>
    </div>
  );
};
