import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { Mark } from '../ui/mark';
import { useTo } from './lens';
import { pages } from './pages';
import { useMay } from './session';

/** The index tabs at the left edge; the current one is open towards the sheet. Only what the user may use is there. */
export const Dividers = () => {
  const { t } = useTranslation();
  const may = useMay();
  const open = pages.filter((page) => page.may(may));
  const tabs = open.filter(({ divider }, i) => open.findIndex((one) => one.divider === divider) === i);
  return (
    <nav className="rail" aria-label={t('divider.label')}>
      <div className="logo">
        <Mark />
      </div>
      {tabs.map(({ divider, path }) => (
        <Tab key={divider} path={path} label={t(`divider.${divider}`)} />
      ))}
    </nav>
  );
};

const Tab = ({ path, label }: { path: string; label: string }) => {
  const { pathname } = useLocation();
  const to = useTo();
  const [, first = ''] = path.split('/');
  const isOn = pathname.startsWith(`/${first}`);
  return (
    <Link className={isOn ? 'tab on' : 'tab'} to={to(path)} aria-current={isOn ? 'page' : undefined}>
      <svg viewBox="0 0 42 90" preserveAspectRatio="none" aria-hidden>
        <path d="M42.5 .5H8L.5 8V82L8 89.5H42.5" />
        {isOn && <path className="edge" d="M2 8.5V81.5" />}
      </svg>
      <span>{label}</span>
    </Link>
  );
};
