import { useTranslation } from 'react-i18next';
import { NavLink } from 'react-router';
import { useTo } from '../frame/lens';

/** The views of the divider of files. */
export const FileViews = () => {
  const { t } = useTranslation('files');
  const { t: texts } = useTranslation();
  const to = useTo();
  return (
    <nav className="views" aria-label={texts('divider.files')}>
      <NavLink to={to('/files/imports')}>{t('imports')}</NavLink>
      <NavLink to={to('/files/templates')}>{t('templates')}</NavLink>
    </nav>
  );
};
