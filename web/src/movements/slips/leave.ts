import { listedFor } from '../fits';
import { slip } from '../slip-declared';

/** The end of an employment, and what becomes of position, direct reports and access. */
export const declared = slip('leave', {
  en: {
    submit: 'Complete leaving now',
    title: 'Who',
    lead: 'leaves',
    more: 'Last day at work, return, access, a word',
    fields: {
      lastDay: 'Last day',
      reasonId: 'Reason',
      noticeOn: 'Notice given or received on',
      lastDayAtWork: 'Last day at work',
      positionAfter: 'The position then',
      reportsToId: 'Direct reports go to',
      mayReturn: 'May return',
      returnReason: 'Why not, or when',
      returnBarredUntil: 'Not before',
      accessEnds: 'Access ends',
      reason: 'A word for the journal',
      accessUntil: 'Access until',
    },
    notes: {
      positionAfter: 'left out: stays as it is; one made with a hire closes',
      reportsToId: 'left out: bridged to the next manager upwards',
      lastDayAtWork: 'left out: the last day itself',
    },
    options: {
      after_last_day: 'after the last day',
      at_once: 'at once',
      by_employee: 'by the employee',
      by_employer: 'by the employer',
      end_of_term: 'end of fixed term',
      retirement: 'retirement',
      death: 'death',
      other: 'another class',
    },
  },
  de: {
    submit: 'Austritt jetzt abschließen',
    title: 'Wer',
    lead: 'tritt aus',
    more: 'Letzter Arbeitstag, Rückkehr, Zugang, ein Wort',
    fields: {
      lastDay: 'Letzter Tag',
      reasonId: 'Grund',
      noticeOn: 'Gekündigt am',
      lastDayAtWork: 'Letzter Arbeitstag',
      positionAfter: 'Die Planstelle danach',
      reportsToId: 'Unterstellte gehen zu',
      mayReturn: 'Darf wiederkommen',
      returnReason: 'Warum nicht, oder wann',
      returnBarredUntil: 'Nicht vor',
      accessEnds: 'Zugang endet',
      reason: 'Ein Wort für das Journal',
      accessUntil: 'Zugang bis',
    },
    notes: {
      positionAfter: 'leer: bleibt, wie sie ist; eine mit Einstellung entstandene schließt',
      reportsToId: 'leer: überbrückt zur nächsten Führungskraft darüber',
      lastDayAtWork: 'leer: der letzte Tag selbst',
    },
    options: {
      after_last_day: 'nach dem letzten Tag',
      at_once: 'sofort',
      by_employee: 'durch die Person',
      by_employer: 'durch uns',
      end_of_term: 'Befristungsende',
      retirement: 'Ruhestand',
      death: 'Tod',
      other: 'andere Klasse',
    },
  },
  title: ({ named, words }) => named('employmentId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => [['lastDay', 'reasonId'], 'noticeOn', 'positionAfter', 'reportsToId'],
  more: ({ input }) => [
    'lastDayAtWork',
    'accessEnds',
    'mayReturn',
    ...(input['mayReturn'] === false ? (['returnReason', 'returnBarredUntil'] as const) : []),
    'reason',
  ],
  current: (path) => ({ mayReturn: true, accessEnds: 'after_last_day' })[path],
  note: (path, { input, showing, day, words }) => {
    const id = input['reasonId'];
    if (path !== 'reasonId' || typeof id !== 'number' || !day) return undefined;
    return words.options?.[showing.register.at('list_entry', id, day)?.flags.class ?? 'other'];
  },
  fits: listedFor('leave'),
  hasBefore: true,
});
