// Names of measures, dimensions and classes of reasons in both languages: pages and files taken out say the same.
import type { ReasonClass } from '../structure/list-entry';
import type { DimensionName, MeasureName } from './cross-table';

type Words = {
  measures: Record<MeasureName, string>;
  dimensions: Record<DimensionName, string>;
  classes: Record<ReasonClass, string>;
};

/** What measures and dimensions are called in files. */
export const measureWords: Record<'en' | 'de', Words> = {
  en: {
    measures: {
      headcount: 'Headcount',
      fte: 'FTE, contracted',
      fteAtWork: 'FTE, at work',
      joiners: 'Joiners',
      leavers: 'Leavers',
      turnover: 'Rolling 12-month turnover',
    },
    dimensions: {
      whole: 'Whole',
      unit: 'Unit',
      division: 'Division',
      location: 'Location',
      country: 'Country',
      jobFamily: 'Job family',
      job: 'Job',
      legalEntity: 'Legal entity',
      workerType: 'Worker type',
    },
    classes: {
      by_employee: 'by the employee',
      by_employer: 'by the employer',
      end_of_term: 'end of term',
      retirement: 'retirement',
      death: 'death',
      other: 'other',
    },
  },
  de: {
    measures: {
      headcount: 'Personalbestand',
      fte: 'VZÄ, vereinbart',
      fteAtWork: 'VZÄ, bei der Arbeit',
      joiners: 'Eintritte',
      leavers: 'Austritte',
      turnover: 'Fluktuation über 12 Monate',
    },
    dimensions: {
      whole: 'Gesamt',
      unit: 'Einheit',
      division: 'Bereich',
      location: 'Standort',
      country: 'Land',
      jobFamily: 'Tätigkeitsgruppe',
      job: 'Tätigkeit',
      legalEntity: 'Gesellschaft',
      workerType: 'Beschäftigungsart',
    },
    classes: {
      by_employee: 'durch Beschäftigte',
      by_employer: 'durch Arbeitgeber',
      end_of_term: 'Ende der Befristung',
      retirement: 'Ruhestand',
      death: 'Tod',
      other: 'anderer',
    },
  },
};
