import { useTranslation } from 'react-i18next';
import { NavLink } from 'react-router';
import { useTo } from '../frame/lens';
import { useMay } from '../frame/session';

/** The views of a divider, at the head of its sheet. */
export const StructureViews = ({ children }: { children?: React.ReactNode }) => {
  const { t } = useTranslation();
  const to = useTo();
  const may = useMay();
  return (
    <nav className="views" aria-label={t('divider.structure')}>
      {may.view('unit') && <NavLink to={to('/structure/outline')}>{t('view.outline')}</NavLink>}
      {may.view('position') && <NavLink to={to('/structure/positions')}>{t('view.positions')}</NavLink>}
      <span className="end">{children}</span>
    </nav>
  );
};
