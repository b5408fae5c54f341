// What somebody has begun and not finished: movements in preparation and records with unsaved edits, on one page.
import '../structure/steps.css';
import { type Kind, type MovementKind, movementOf } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { Link, type To } from 'react-router';
import { useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { type Local, useAllKept } from '../time/kept';
import { sectionDrafts } from '../time/section-drafts';
import { PlainTable } from '../ui/plain-table';
import { useSectionName } from '../ui/section-name';
import { Views } from '../ui/views';
import { type LocalMovement, keptMovements } from './kept-movements';

const en = {
  none: 'Nothing of yours is in preparation. What you begin and do not finish waits here; what is written in it is yours alone to see.',
  what: 'What',
  who: 'Of whom, or of what',
  day: 'Day',
  kept: 'Kept',
  unsaved: (sections: string) => `Unsaved: ${sections}`,
  gone: 'a record you may not see any more',
  continue: 'Continue',
  discard: 'Discard',
  discardOf: (what: string, who: string) => `Discard: ${what}, ${who}`,
};
const de: typeof en = {
  none: 'Von Ihnen ist nichts in Vorbereitung. Was Sie beginnen und nicht abschließen, wartet hier; was darin steht, sehen nur Sie.',
  what: 'Was',
  who: 'Von wem oder wovon',
  day: 'Tag',
  kept: 'Gesichert',
  unsaved: (sections) => `Nicht gespeichert: ${sections}`,
  gone: 'ein Datensatz, den Sie nicht mehr sehen dürfen',
  continue: 'Fortsetzen',
  discard: 'Verwerfen',
  discardOf: (what, who) => `Verwerfen: ${what}, ${who}`,
};

type Line = {
  key: string;
  what: string;
  who: string;
  day: string;
  keptAt: string | null;
  to: To;
  discard: () => void;
};

/** Own drafts and unsaved edits, latest first. */
export const OwnDrafts = () => {
  const words = useWords({ en, de });
  const { t } = useTranslation();
  const format = useFormat();
  const pageName = useNameOfPage('/people/drafts');
  const lines = useLines();
  return (
    <main className="sheet templates">
      <Views of="people" />
      <div className="steps">
        <h1>{pageName}</h1>
        {lines === undefined && <p className="waiting">{t('waiting')}</p>}
        {lines?.length === 0 && <p className="soft">{words.none}</p>}
        {lines && lines.length > 0 && (
          <PlainTable
            heads={[
              { label: words.what },
              { label: words.who },
              { label: words.day },
              { label: words.kept },
              { label: '' },
            ]}
            rows={lines.map((line) => ({
              key: line.key,
              cells: [
                line.what,
                <span key="who" className="serif">
                  {line.who}
                </span>,
                line.day,
                line.keptAt === null ? '' : format.recently(line.keptAt),
                <span key="acts" className="rowacts">
                  <Link to={line.to}>{words.continue}</Link>{' '}
                  <button
                    type="button"
                    className="textact"
                    aria-label={words.discardOf(line.what, line.who)}
                    onClick={line.discard}
                  >
                    {words.discard}
                  </button>
                </span>,
              ],
            }))}
          />
        )}
      </div>
    </main>
  );
};

const aboutOf = (about: string): { kind: Kind; id: number } => {
  const [kind = '', id = '0'] = about.split(' ');
  return { kind: kind as Kind, id: Number(id) };
};

const useLines = (): Line[] | undefined => {
  const words = useWords({ en, de });
  const { i18n } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const nameOfSection = useSectionName();
  const movements = useAllKept(keptMovements);
  const drafts = useAllKept(sectionDrafts);
  if (!movements || !drafts) return undefined;
  const nameOf = (kind: MovementKind) => movementOf(kind).name[i18n.language === 'de' ? 'de' : 'en'];
  const ofMovement = ({ key, kind, about, input, names, keptAt }: LocalMovement): Line => {
    const record = aboutOf(about);
    const name = names.find((one) => one.kind === record.kind && one.id === record.id)?.name;
    const day = input[movementOf(kind).day.field];
    return {
      key,
      what: nameOf(kind),
      who: name ?? words.gone,
      day: typeof day === 'string' ? format.day(day) : '',
      keptAt,
      to: to(pathOf(record.kind, record.id), { slip: key }),
      discard: () => void keptMovements.discard(key),
    };
  };
  const ofDraft = ({ key, about, content, name, keptAt }: Local<KeptDraftLine>): Line => {
    const record = aboutOf(about);
    const edits = Object.values((content['edits'] ?? {}) as Record<string, { section: string }>);
    const sections = [...new Set(edits.map(({ section }) => nameOfSection(section as never)))];
    return {
      key,
      what: words.unsaved(sections.join(', ')),
      who: name ?? words.gone,
      day: '',
      keptAt,
      to: to(pathOf(record.kind, record.id)),
      discard: () => void sectionDrafts.discard(key),
    };
  };
  const latest = (a: Line, b: Line) => ((a.keptAt ?? '~') < (b.keptAt ?? '~') ? 1 : -1);
  return [
    ...movements.filter(({ isOpened }) => !isOpened).map(ofMovement),
    ...drafts.map((draft) => ofDraft(draft as Local<KeptDraftLine>)),
  ].sort(latest);
};

type KeptDraftLine = {
  key: string;
  about: string;
  content: Record<string, unknown>;
  name?: string | null;
};
