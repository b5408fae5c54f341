import { useTranslation } from 'react-i18next';
import { NavLink } from 'react-router';
import { useTo } from '../frame/lens';
import { type Page, pages, usePageName } from '../frame/pages';
import { useMay } from '../frame/session';

/** The pages of a divider, at the head of its sheet. */
export const Views = ({ of }: { of: Page['divider'] }) => {
  const { t } = useTranslation();
  const to = useTo();
  const may = useMay();
  const nameOf = usePageName();
  return (
    <nav className="views" aria-label={t(`divider.${of}`)}>
      {pages
        .filter((page) => page.divider === of && !page.isBeside && page.may(may))
        .map((page) => (
          <NavLink key={page.path} to={to(page.path)}>
            {nameOf(page)}
          </NavLink>
        ))}
    </nav>
  );
};
