// All pages, declared once: routes, dividers, the views at the head of a sheet and find-or-do are made of this list.
import type { Kind, Viewer } from '@gremium/contract';
import { may as mayOf } from '@gremium/contract';
import { type ComponentType, type LazyExoticComponent } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';
import type { May } from './session';
import { lazily } from '../ui/lazily';

export type Page = {
  path: string;
  /** The parameter after the path: what is open in it. */
  param?: string;
  divider: Exclude<keyof Texts['divider'], 'label'>;
  /** What it is called. */
  name: { en: string; de: string };
  /** The kind of thing of which it shows records. */
  record?: Kind | 'entry';
  may: (may: May) => boolean;
  /** Reached from another page, and by finding it: not among the views at the head of a sheet. */
  isBeside?: true;
  View: LazyExoticComponent<ComponentType>;
};

/** The pages in the order of the dividers. */
export const pages: readonly Page[] = [
  {
    path: '/people',
    record: 'person',
    param: 'id',
    divider: 'people',
    name: { en: 'People', de: 'Personen' },
    may: (may) => may.view('person_name'),
    View: lazily(async () => (await import('../people/people')).People),
  },
  {
    path: '/people/honours',
    divider: 'people',
    isBeside: true,
    name: { en: 'Honours due', de: 'Fällige Ehrungen' },
    may: (may) => may.view('award') && may.count,
    View: lazily(async () => (await import('../people/honours-due')).HonoursDue),
  },
  {
    path: '/people/drafts',
    divider: 'people',
    name: { en: 'In preparation', de: 'In Vorbereitung' },
    may: (may) => may.view('person_name'),
    View: lazily(async () => (await import('../movements/own-drafts')).OwnDrafts),
  },
  {
    path: '/structure/outline',
    divider: 'structure',
    name: { en: 'Outline', de: 'Gliederung' },
    may: (may) => may.view('unit'),
    View: lazily(async () => (await import('../structure/outline')).Outline),
  },
  {
    path: '/structure/units',
    record: 'unit',
    param: 'id',
    divider: 'structure',
    name: { en: 'Units', de: 'Einheiten' },
    may: (may) => may.view('unit'),
    View: lazily(async () => (await import('../structure/units')).Units),
  },
  {
    path: '/structure/positions',
    record: 'position',
    param: 'id',
    divider: 'structure',
    name: { en: 'Positions', de: 'Planstellen' },
    may: (may) => may.view('position'),
    View: lazily(async () => (await import('../structure/positions')).Positions),
  },
  {
    path: '/structure/jobs',
    record: 'job',
    param: 'id',
    divider: 'structure',
    name: { en: 'Jobs', de: 'Tätigkeiten' },
    may: (may) => may.view('job'),
    View: lazily(async () => (await import('../structure/jobs')).Jobs),
  },
  {
    path: '/structure/grades',
    record: 'grade',
    param: 'id',
    divider: 'structure',
    name: { en: 'Grades', de: 'Entgeltgruppen' },
    may: (may) => may.view('grade'),
    View: lazily(async () => (await import('../structure/grades')).Grades),
  },
  {
    path: '/structure/steps',
    divider: 'structure',
    isBeside: true,
    name: { en: 'Next steps', de: 'Stufenaufstiege' },
    may: (may) => may.view('pay') && may.view('grade') && may.count,
    View: lazily(async () => (await import('../structure/steps')).Steps),
  },
  {
    path: '/movements',
    param: 'id',
    divider: 'movements',
    name: { en: 'Movements', de: 'Maßnahmen' },
    may: (may) => may.movements,
    View: lazily(async () => (await import('../movements/movements-page')).MovementsPage),
  },
  {
    path: '/files/imports',
    param: 'id',
    divider: 'files',
    name: { en: 'Imports', de: 'Importe' },
    may: (may) => may.act('import'),
    View: lazily(async () => (await import('../files/imports')).Imports),
  },
  {
    path: '/files/taken-out',
    divider: 'files',
    name: { en: 'Taken out', de: 'Exportiert' },
    may: (may) => may.act('import') || may.count,
    View: lazily(async () => (await import('../files/take-outs')).TakeOuts),
  },
  {
    path: '/files/templates',
    divider: 'files',
    name: { en: 'Templates', de: 'Vorlagen' },
    may: (may) => may.act('import'),
    View: lazily(async () => (await import('../files/templates')).Templates),
  },
  {
    path: '/reports/shelf',
    divider: 'reports',
    name: { en: 'Shelf', de: 'Regal' },
    may: (may) => may.count,
    View: lazily(async () => (await import('../reports/shelf')).Shelf),
  },
  {
    path: '/reports/declared',
    divider: 'reports',
    name: { en: 'Declared facts', de: 'Selbstangaben' },
    may: (may) => may.act('declared_figures'),
    View: lazily(async () => (await import('../reports/declared-figures')).DeclaredFigures),
  },
  {
    path: '/reports/list',
    param: 'id',
    divider: 'reports',
    isBeside: true,
    name: { en: 'List report', de: 'Listenbericht' },
    may: (may) => may.count,
    View: lazily(async () => (await import('../reports/builder')).ListReport),
  },
  {
    path: '/reports/cross-table',
    divider: 'reports',
    name: { en: 'Cross table', de: 'Kreuztabelle' },
    may: (may) => may.count,
    View: lazily(async () => (await import('../measures/cross-table')).CrossTable),
  },
  {
    path: '/setup/organisation',
    record: 'organisation',
    param: 'id',
    divider: 'setup',
    name: { en: 'Organisation', de: 'Organisation' },
    may: (may) => may.keep('organisation'),
    View: lazily(async () => (await import('../structure/organisation')).OrganisationPage),
  },
  {
    path: '/setup/fields',
    divider: 'setup',
    name: { en: 'Own fields', de: 'Eigene Felder' },
    may: (may) => may.keep('own_section'),
    View: lazily(async () => (await import('../structure/own-fields')).OwnFields),
  },
  {
    path: '/setup/access',
    param: 'id',
    divider: 'setup',
    name: { en: 'Access', de: 'Zugang' },
    may: (may) => may.do({ everywhere: 'access' }),
    View: lazily(async () => (await import('../access/access-page')).AccessPage),
  },
  {
    path: '/setup/roles',
    param: 'role',
    divider: 'setup',
    name: { en: 'Roles', de: 'Rollen' },
    may: (may) => may.do({ everywhere: 'access' }),
    View: lazily(async () => (await import('../access/roles-page')).RolesPage),
  },
  {
    path: '/setup/lists',
    param: 'list',
    divider: 'setup',
    name: { en: 'Lists', de: 'Listen' },
    may: (may) => may.keep('list_entry'),
    View: lazily(async () => (await import('../structure/lists')).Lists),
  },
  {
    path: '/setup/journal',
    record: 'entry',
    param: 'number',
    divider: 'setup',
    name: { en: 'Journal', de: 'Journal' },
    may: (may) => may.act('journal'),
    View: lazily(async () => (await import('../time/journal')).Journal),
  },
];

/** Where somebody starts: who may see one record only on it, else at the outline, or at the first page there is for them. */
export const homeOf = (may: May, viewer: Viewer): string => {
  const { personId } = viewer;
  if (personId !== null && mayOf(viewer).isOfOneself) return pathOf('person', personId);
  const open = pages.filter((page) => page.may(may));
  return (open.find(({ path }) => path === '/structure/outline') ?? open[0])?.path ?? '/people';
};

/** The path of the record of a thing; of a kind that has none, that of the first page. */
export const pathOf = (kind: Kind | 'entry', id: number | string): string => {
  const page = pages.find(({ record }) => record === kind);
  return page ? `${page.path}/${id}` : '/';
};

/** Whether things of a kind have records. */
export const hasRecord = (kind: Kind | 'entry'): boolean => pages.some(({ record }) => record === kind);

/** What a page is called in the language of the user. */
export const usePageName = () => {
  const { i18n } = useTranslation();
  return ({ name }: Pick<Page, 'name'>): string => (i18n.language === 'de' ? name.de : name.en);
};

/** What the page of a path is called. */
export const useNameOfPage = (path: string): string => {
  const nameOf = usePageName();
  const page = pages.find((one) => one.path === path);
  return page ? nameOf(page) : '';
};
