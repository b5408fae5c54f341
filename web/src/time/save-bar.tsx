import { Button, Input } from 'antd';
import { useTranslation } from 'react-i18next';
import { Refused } from '../api';
import { useLens } from '../frame/lens';
import { Checks } from '../movements/checks';
import { useFormat, useReading } from '../texts/format';
import { Problems } from '../ui/problems';
import { useSectionName } from '../ui/section-name';
import { type Edits, type SectionEdit, isReady } from './edits';

/** Counts unsaved sections at the foot of a record and saves all of them as one entry. */
export const SaveBar = ({ edits }: { edits: Edits }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const reading = useReading();
  const nameOfSection = useSectionName();
  const { today, known } = useLens();
  const { edits: open, save, refusal, keptAt } = edits;
  const count = open.length;
  if (count === 0) return null;
  const isAllReady = open.every((edit) => isReady(edit, reading));
  const later = open.find(({ mode, from }) => mode === 'set' && from !== today);
  // what was found while it was typed, and what the save was refused for: each warning brings the line for its word
  const refused = refusal instanceof Refused ? refusal.problems : [];
  const isUnsaid = refused.some(({ code }) => code === 'word_missing');
  const shown = (isUnsaid || refused.length === 0 ? [...refused, ...edits.found] : edits.found).filter(
    ({ code }) => code !== 'word_missing',
  );
  const warnings = [...new Map(shown.map((one) => [`${one.code} ${one.field ?? ''}`, one])).values()];
  const stops = edits.found.some(({ severity }) => severity === 'error');
  const { words } = edits;
  const unsaid = warnings.some(({ severity, code }) => severity === 'warning' && !words[code]?.trim());
  // one section is named, apart from the movement that may change it; several are one entry
  const saveLabel = (): string => {
    const day = later ? format.day(later.from) : '';
    if (count > 1) return later ? t('edit.saveFrom', { day }) : t('edit.save', { count });
    const section = nameOfSection((open[0] as SectionEdit).section);
    return later ? t('edit.saveOneFrom', { section, day }) : t('edit.saveOne', { section });
  };
  const others = refusal instanceof Refused && refusal.problems.every(({ code }) => code === 'conflict');
  return (
    <div className="savebar" role="region" aria-label={t('edit.unsaved', { count })}>
      {warnings.length > 0 && <Checks problems={warnings} looked={[]} words={words} onWord={edits.setWord} />}
      {refusal && !others && !isUnsaid && <Problems of={refusal} />}
      {known && <p className="ochre">! {t('lens.pastOnly')}</p>}
      <div className="line">
        <span className="figure">{count}</span>
        <span className="what">
          <b>{t('edit.unsaved', { count })}</b> {open.map(({ section }) => nameOfSection(section)).join(', ')}
          . {keptAt && <span className="soft">{t('draft.kept', { at: format.recently(keptAt) })}</span>}
        </span>
        <Input
          className="reason"
          variant="underlined"
          aria-label={t('edit.reason')}
          placeholder={t('edit.reason')}
          value={edits.reason}
          onChange={(event) => edits.setReason(event.target.value)}
        />
        <Button onClick={edits.discardAll}>{t('edit.discard')}</Button>
        <Button
          type="primary"
          disabled={!isAllReady || edits.conflicts.length > 0 || Boolean(known) || unsaid || stops}
          loading={save.isPending}
          onClick={edits.saveAll}
        >
          {saveLabel()}
        </Button>
      </div>
    </div>
  );
};
