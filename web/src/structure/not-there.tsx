import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { useFormat } from '../texts/format';

type NotThereProps = {
  title: string;
  from: string | undefined;
  path: string;
  /** What became of it. */
  children?: React.ReactNode;
};

/** A record on a day on which it is not in the register, with the way to the first day on which it is. */
export const NotThere = ({ title, from, path, children }: NotThereProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const to = useTo();
  return (
    <main className="record">
      <header className="recordhead">
        <h1>{title}</h1>
        <p>{t('position.notThere', { day: format.day(on) })}</p>
        {children}
        {from && (
          <p>
            <Link to={to(path, { on: from })}>{t('position.lookAt', { day: format.day(from) })}</Link>
          </p>
        )}
      </header>
    </main>
  );
};
