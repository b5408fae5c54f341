import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { Mark } from '../ui/mark';
import { useTo } from './lens';
import { useMay } from './session';

/** The index tabs at the left edge; the current one is open towards the sheet. Only what the user may use is there. */
export const Dividers = () => {
  const { t } = useTranslation();
  const { pathname } = useLocation();
  const to = useTo();
  const may = useMay();
  const tabs = [
    { at: '/people', path: '/people', label: t('divider.people'), is: may.view('person_name') },
    { at: '/structure', path: '/structure/outline', label: t('divider.structure'), is: may.view('unit') },
    { at: '/files', path: '/files/imports', label: t('divider.files'), is: may.act('import') },
    { at: '/reports', path: '/reports/cross-table', label: t('divider.reports'), is: may.count },
    { at: '/setup', path: '/setup/journal', label: t('divider.setup'), is: may.act('journal') },
  ];
  return (
    <nav className="rail" aria-label={t('divider.label')}>
      <div className="logo">
        <Mark />
      </div>
      {tabs
        .filter(({ is }) => is)
        .map(({ at, path, label }) => {
          const isOn = pathname.startsWith(at);
          return (
            <Link
              key={at}
              className={isOn ? 'tab on' : 'tab'}
              to={to(path)}
              aria-current={isOn ? 'page' : undefined}
            >
              <svg viewBox="0 0 42 90" preserveAspectRatio="none" aria-hidden>
                <path d="M42.5 .5H8L.5 8V82L8 89.5H42.5" />
                {isOn && <path className="edge" d="M2 8.5V81.5" />}
              </svg>
              <span>{label}</span>
            </Link>
          );
        })}
    </nav>
  );
};
