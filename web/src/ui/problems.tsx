import type { TOptions } from 'i18next';
import { useTranslation } from 'react-i18next';
import { Refused } from '../api';

/** The problems of a refused call, in words. */
export const Problems = ({ of }: { of: Error | null }) => {
  const { t } = useTranslation();
  if (!of) return null;
  const problems = of instanceof Refused ? of.problems : [];
  const sentences = problems.map(({ code, params }) => t(`problem.${code}`, params as TOptions));
  return (
    <div className="problem" role="alert">
      {(sentences.length > 0 ? sentences : [t('problem.failed')]).map((sentence) => (
        <div key={sentence}>! {sentence}</div>
      ))}
    </div>
  );
};
