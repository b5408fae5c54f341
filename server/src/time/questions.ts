// All questions that the worker with the register in memory answers, by feature.
import type { Sight } from '@gremium/core';
import { measureQuestions } from '../measures/measures.questions';
import { movementQuestions } from '../movements/movement.questions';
import { honourQuestions } from '../people/honours.questions';
import { peopleQuestions } from '../people/people.questions';
import { structureQuestions } from '../structure/structure.questions';
import { reportQuestions } from '../reports/reports.questions';
import { takeOutQuestions } from '../reports/take-out.questions';
import { accessQuestions } from '../access/lines-below';
import { findQuestions } from './find.questions';
import type { Looking } from './lens';
import type { Known } from './register-memory';

/** What a question is answered from: the register looked at, and what the viewer may see. */
export type Asking = Known & { sight: Sight; looking: Looking };

/** Declares questions: each a plain function of the register, the viewer's sight and what is asked. */
export const questions = {
  ...structureQuestions,
  ...peopleQuestions,
  ...honourQuestions,
  ...movementQuestions,
  ...measureQuestions,
  ...findQuestions,
  ...reportQuestions,
  ...takeOutQuestions,
  ...accessQuestions,
};

export type QuestionName = keyof typeof questions;
export type AskOf<Q extends QuestionName> = Parameters<(typeof questions)[Q]>[1];
export type AnswerOf<Q extends QuestionName> = ReturnType<(typeof questions)[Q]>;
