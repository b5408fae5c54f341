import { useTranslation } from 'react-i18next';
import { NavLink, useLocation } from 'react-router';
import { useTo } from '../frame/lens';
import { type Page, pages, usePageName } from '../frame/pages';
import { useMay } from '../frame/session';

/** The pages of a divider, at the head of its sheet. */
export const Views = ({ of }: { of: Page['divider'] }) => {
  const { t } = useTranslation();
  const to = useTo();
  const may = useMay();
  const nameOf = usePageName();
  const { pathname } = useLocation();
  // the page that is open stands below this one, and is one itself
  const isAbove = (path: string) =>
    pages.some((other) => other.path.startsWith(`${path}/`) && pathname.startsWith(other.path));
  return (
    <nav className="views" aria-label={t(`divider.${of}`)}>
      {pages
        .filter((page) => page.divider === of && !page.isBeside && page.may(may))
        .map((page) => (
          <NavLink key={page.path} to={to(page.path)} end={isAbove(page.path)}>
            {nameOf(page)}
          </NavLink>
        ))}
    </nav>
  );
};
