// All pages, declared once: routes, dividers, the views at the head of a sheet and find-or-do are made of this list.
import { type ComponentType, type LazyExoticComponent, lazy } from 'react';
import type { Texts } from '../texts/en';
import { recordPaths } from './record-paths';
import type { May } from './session';

export type Page = {
  path: string;
  /** The parameter after the path: what is open in it. */
  param?: string;
  divider: Exclude<keyof Texts['divider'], 'label'>;
  label: keyof Texts['view'];
  may: (may: May) => boolean;
  View: LazyExoticComponent<ComponentType>;
};

/** The pages in the order of the dividers. */
export const pages: readonly Page[] = [
  {
    path: recordPaths.person,
    param: 'id',
    divider: 'people',
    label: 'people',
    may: (may) => may.view('person_name'),
    View: lazy(async () => ({ default: (await import('../people/people')).People })),
  },
  {
    path: '/structure/outline',
    divider: 'structure',
    label: 'outline',
    may: (may) => may.view('unit'),
    View: lazy(async () => ({ default: (await import('../structure/outline')).Outline })),
  },
  {
    path: recordPaths.unit,
    param: 'id',
    divider: 'structure',
    label: 'units',
    may: (may) => may.view('unit'),
    View: lazy(async () => ({ default: (await import('../structure/units')).Units })),
  },
  {
    path: recordPaths.position,
    param: 'id',
    divider: 'structure',
    label: 'positions',
    may: (may) => may.view('position'),
    View: lazy(async () => ({ default: (await import('../structure/positions')).Positions })),
  },
  {
    path: recordPaths.job,
    param: 'id',
    divider: 'structure',
    label: 'jobs',
    may: (may) => may.view('job'),
    View: lazy(async () => ({ default: (await import('../structure/jobs')).Jobs })),
  },
  {
    path: '/files/imports',
    param: 'id',
    divider: 'files',
    label: 'imports',
    may: (may) => may.act('import'),
    View: lazy(async () => ({ default: (await import('../files/imports')).Imports })),
  },
  {
    path: '/files/templates',
    divider: 'files',
    label: 'templates',
    may: (may) => may.act('import'),
    View: lazy(async () => ({ default: (await import('../files/templates')).Templates })),
  },
  {
    path: '/reports/cross-table',
    divider: 'reports',
    label: 'crossTable',
    may: (may) => may.count,
    View: lazy(async () => ({ default: (await import('../measures/cross-table')).CrossTable })),
  },
  {
    path: '/setup/journal',
    param: 'number',
    divider: 'setup',
    label: 'journal',
    may: (may) => may.act('journal'),
    View: lazy(async () => ({ default: (await import('../time/journal')).Journal })),
  },
];

/** Where somebody starts: at the outline, or at the first page there is for them. */
export const homeOf = (may: May): string => {
  const open = pages.filter((page) => page.may(may));
  return (open.find(({ path }) => path === '/structure/outline') ?? open[0])?.path ?? recordPaths.person;
};
