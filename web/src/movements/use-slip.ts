// The state of a slip: what is written, what it shows, what is still needed. All of it is the kept movement; nothing else.
import {
  type Day,
  type InputField,
  type Kind,
  askedAtHire,
  hiddenFields,
  movementOf,
} from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useMay, useSession } from '../frame/session';
import { usePayInWords, useRangeInWords } from '../people/pay-in-words';
import { useFormat, useReading } from '../texts/format';
import { catalogueNow } from '../time/catalogue-now';
import { useShow } from '../ui/field-value';
import { valueAt } from './at-path';
import type { LocalMovement } from './kept-movements';
import type { SlipContext, SlipDeclaration } from './slip-declared';
import { useFieldLabel } from './slip-input';
import { type AskedNow, asField, conditionsIn, fieldOfKind, readSlip, wordsIn } from './slip-reading';
import { type SlipShowing, useSlipShowing } from './slip-showing';
import { slipWriter } from './slip-writing';

const NO_SHOWING = { register: { rows: () => [] } } as unknown as SlipShowing;

/** A slip's words in the language of the user. */
const useSlipWords = ({ en, de }: SlipDeclaration) => (useTranslation().i18n.language === 'de' ? de : en);

const useContext = (
  { kind, about, input, names }: LocalMovement,
  declared: SlipDeclaration,
): { context: SlipContext | null; nameOf: (of: Kind, id: number) => string } => {
  const format = useFormat();
  const may = useMay();
  const hidden = hiddenFields(useSession().viewer.grants);
  const payInWords = usePayInWords();
  const rangeInWords = useRangeInWords();
  const words = useSlipWords(declared);
  const [aboutKind = '', aboutId = '0'] = about.split(' ');
  const record = { kind: aboutKind, id: Number(aboutId) };
  const showing = useSlipShowing(declared.reads?.(input, record) ?? {});
  const nameOf = (of: Kind, id: number): string =>
    names.find((one) => one.kind === of && one.id === id)?.name ?? showing?.nameOf(of, id) ?? '';
  const named = (path: string): string => {
    const { meta } = fieldOfKind(kind)(path);
    const id = valueAt(input, path);
    if (meta.is === 'refs' && Array.isArray(id))
      return id.length > FEW_NAMED ? '' : id.map((one) => nameOf(meta.kind, one as number)).join(', ');
    return meta.is === 'ref' && typeof id === 'number' ? nameOf(meta.kind, id) : '';
  };
  const day = valueAt(input, movementOf(kind).day.field) as Day | undefined;
  const own = askedAtHire(catalogueNow().sections).flatMap(({ section, field }) =>
    may.edit(section) ? `own.${field}` : [],
  );
  return {
    nameOf,
    context: showing && {
      about: record,
      input,
      day,
      showing,
      named,
      words,
      format,
      payInWords,
      rangeInWords,
      own,
      hidden,
    },
  };
};

// More names than this are counted.
const FEW_NAMED = 3;

const NOT_YET = {
  rows: [],
  more: [],
  firstPath: undefined,
  missing: [],
  asked: { problems: [] } as AskedNow,
};

/** What a slip is and does, for the inputs in it. */
export type Slip = ReturnType<typeof useSlip>;

export const useSlip = (movement: LocalMovement, declared: SlipDeclaration) => {
  const language = useReading();
  const { input, typed, kind } = movement;
  const { context, nameOf } = useContext(movement, declared);
  const show = useShow(context?.showing ?? NO_SHOWING);
  const words = useSlipWords(declared);
  const own = useFieldLabel();
  const labelOf = (path: string) => own(path, words.fields);
  const fieldOf = fieldOfKind(kind);
  const currentOf = (path: string): unknown => (context ? declared.current?.(path, context) : undefined);
  const written = (path: string) => valueAt(input, path);
  return {
    movement,
    declared,
    words,
    context,
    ...(context ? readSlip({ movement, declared, context, currentOf, labelOf, language }) : NOT_YET),
    ...slipWriter(movement, { fieldOf, currentOf, language }),
    fieldOf,
    nameOf,
    labelOf,
    valueOf: (path: string): unknown => (written(path) === undefined ? currentOf(path) : written(path)),
    /** Whether a field can be left empty: nothing is an answer, or nothing stands that would come back. */
    mayClear: ({ path, isNeeded, isNullable }: InputField): boolean =>
      isNullable || (!isNeeded && (currentOf(path) ?? null) === null),
    typedOf: (path: string): string | undefined => typed[path],
    say: (field: InputField, value: unknown): string => show(asField(field), value),
    said: wordsIn(movement),
    conditions: conditionsIn(movement),
  };
};
