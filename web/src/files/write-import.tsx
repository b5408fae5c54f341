import type { ImportOut, ImportSummary } from '@gremium/contract';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { useSentence } from '../ui/problems';
import { Step, type StepProps } from './import-step';

/** What writing would do, the words that warnings need, and the button that says how many rows. */
export const WriteImport = ({ of, acts }: StepProps) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const [words, setWords] = useState<Record<string, string>>({});
  const [reason, setReason] = useState('');
  const { counts, summary, warnings, work } = of;
  if (!counts || !summary) return null;
  const good = counts.new + counts.changed;
  if (good === 0)
    return (
      <Step number={5} name={t('write.head')} look="next">
        {t(counts.refused > 0 ? 'write.nothingGood' : 'write.nothing')}
      </Step>
    );
  const isAll = counts.refused === 0;
  const isMissing = warnings.some(({ problem }) => !words[problem.code]?.trim());
  const shown = format.number(good);
  const write = () =>
    acts.write.mutate({
      rows: isAll ? 'all' : 'good',
      words,
      ...(reason.trim() ? { reason: reason.trim() } : {}),
    });
  return (
    <Step
      number={5}
      name={t('write.head')}
      look="next"
      act={
        <Button
          type="primary"
          disabled={work !== null || isMissing}
          loading={acts.write.isPending || work?.what === 'write'}
          onClick={write}
        >
          {t(isAll ? 'write.all' : 'write.good', { shown, refused: format.number(counts.refused) })}
        </Button>
      }
    >
      <p>
        <b>{t('write.rows', { count: good, shown })}</b> <Does of={summary} />
      </p>
      <p className="soft">{t('write.again')}</p>
      {warnings.map((warning) => (
        <Warning
          key={warning.problem.code}
          of={warning}
          word={words[warning.problem.code] ?? ''}
          onWord={(word) => setWords({ ...words, [warning.problem.code]: word })}
        />
      ))}
      <label className="wordline" htmlFor="import-reason">
        <span className="soft">{t('write.reason')}</span>
        <Input
          id="import-reason"
          variant="underlined"
          value={reason}
          maxLength={200}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
    </Step>
  );
};

const Does = ({ of }: { of: ImportSummary }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const { hires, moves, others, begun, later, firstLater, lastLater } = of;
  const what = (
    [
      ['hires', hires],
      ['moves', moves],
      ['others', others],
    ] as const
  )
    .filter(([, count]) => count > 0)
    .map(([name, count]) => t(`write.${name}`, { count, shown: format.number(count) }));
  const days = {
    count: later,
    shown: format.number(later),
    from: format.day(firstLater),
    until: format.day(lastLater),
  };
  return (
    <>
      {what.join(', ')}.{' '}
      {begun > 0 &&
        `${t('write.begun', { count: begun, shown: format.number(begun) })}${later > 0 ? ', ' : '.'}`}
      {later > 0 && (
        <span className="indigo">
          {firstLater === lastLater ? t('write.laterOne', days) : t('write.later', days)}.
        </span>
      )}
    </>
  );
};

const Warning = ({
  of: { problem, count, rows },
  word,
  onWord,
}: {
  of: ImportOut['warnings'][number];
  word: string;
  onWord: (word: string) => void;
}) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const sentence = useSentence();
  const more = count > rows.length ? ' …' : '';
  return (
    <div className="importwarning">
      <p>
        <span className="warnmark" aria-hidden>
          !
        </span>{' '}
        {t('write.warning', { count, shown: format.number(count), sentence: sentence(problem) })}{' '}
        <span className="source">{t('write.inRows', { count, rows: `${rows.join(', ')}${more}` })}</span>
      </p>
      <label className="wordline" htmlFor={`word-${problem.code}`}>
        <span className="soft">{t('write.word')}</span>
        <Input
          id={`word-${problem.code}`}
          variant="underlined"
          value={word}
          maxLength={200}
          onChange={(event) => onWord(event.target.value)}
        />
      </label>
    </div>
  );
};
