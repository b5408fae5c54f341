// What a field is, declared once with the schema that checks it. Input, display, storage, files and laws read it from here.
import { z } from 'zod';
import { Day } from './day';
import type { Kind } from './kind';

/** The lists that the organisation keeps. `own`: the choices of an own field. */
export const ListName = z.enum([
  'worker_type',
  'contract_kind',
  'pay_kind',
  'reason',
  'unit_kind',
  'job_family',
  'union',
  'bargaining_unit',
  'agreement',
  'task',
  'responsibility',
  'title',
  'education',
  'certificate',
  'skill',
  'honour',
  'document_kind',
  'asset_kind',
  'absence_kind',
  'check',
  'job_function',
  'job_type',
  'clearance',
  'evaluation_method',
  'origin',
  'relation',
  'identifier_kind',
  'protected_status',
  'training',
  'medical',
  'measure',
  'benefit',
  'declared_fact',
  'own',
]);
export type ListName = z.infer<typeof ListName>;

type Is =
  | { is: 'text'; long?: true }
  | { is: 'email' | 'phone' | 'link' | 'code' | 'country' | 'currency' | 'language' | 'time_zone' }
  | { is: 'day' | 'decimal' | 'yes_no' }
  /** A whole number; `said`: that of a month, or of a day of the week (1 is Monday). */
  | { is: 'number'; said?: 'month' | 'weekday' }
  /** Hours, shares or days in hundredths; `most` in whole ones, `zero` where none is an answer too. */
  | { is: 'hundredths'; unit: 'hours' | 'fte' | 'days'; most?: number; zero?: true }
  /** One of the options of its schema, or several of them. */
  | { is: 'choice'; options: readonly string[] }
  | { is: 'choices'; options: readonly string[] }
  /** An entry of a list; of the list `own`, those made for one field. */
  | { is: 'list'; list: ListName; ownField?: number }
  | { is: 'lists'; list: ListName; ownField?: number }
  /** The id of another thing. `past`: it need not exist on the days of the row. */
  | { is: 'ref'; kind: Kind; past?: true }
  /** Ids of several other things of a kind. */
  | { is: 'refs'; kind: Kind }
  /** An amount with its currency. */
  | { is: 'money' }
  /** A file that is kept beside the register (`FileRef`). */
  | { is: 'file' }
  /** An object or a list that only its own rules read. */
  | { is: 'json' };

/** What a field is, beside its schema. */
export type FieldMeta = Is & {
  /** Asked backwards (who names this thing?), so that the database and the columns keep an index. */
  followed?: true;
  /** Looked for by its value (an email, a code): decisions that found nobody are told when somebody gets it. */
  looked?: true;
  /** Changes by this kind of movement only: in its section it is shown, and mended. */
  door?: string;
  /** Not on the page of its record. */
  quiet?: true;
  /** To be said by whoever records something new (law `field_required`); what was recorded before stays as it is. */
  required?: true;
  /** What it is where a row begins, until somebody says otherwise. */
  usual?: string | number | boolean;
  /** A hire asks for it. */
  atHire?: true;
  /** Whose it is is found by it. */
  searched?: true;
  /** Said by one owner at a time (law `field_unique`). */
  unique?: true;
  /** Nothing more is said in it. */
  retired?: true;
  /** Roles that neither see it nor record in it. */
  hiddenFrom?: readonly string[];
  /** What the organisation calls it. */
  label?: { en: string; de: string };
  /** Where it stands among the others of its section, where the organisation says so. */
  place?: number;
  /** The section under which records show it. */
  shownIn?: string;
  /** A day on which somebody on the register, or their kin, was born: two digits of a year are read by it. */
  birth?: 'person' | 'kin';
  /** Never another value: what is kept elsewhere rests on it (law `value_constant`). */
  constant?: true;
};

const fields = z.registry<FieldMeta>();

/** A field with what it is: a clone, so that a shared schema keeps its own metadata. */
export const field = <S extends z.ZodType>(schema: S, meta: FieldMeta): S => {
  const own = schema.clone() as S;
  fields.add(own, meta);
  return own;
};

type Wrapper = { unwrap: () => z.ZodType };
const isWrapper = (schema: z.ZodType): boolean =>
  schema instanceof z.ZodNullable || schema instanceof z.ZodOptional || schema instanceof z.ZodReadonly;

/** What a schema was declared to be; undefined where it is no field. */
export const metaIn = (schema: z.ZodType): FieldMeta | undefined => fields.get(schema);

/** What a field is, read through what it is wrapped in. Throws where it was not declared, at start. */
export const metaOf = (name: string, schema: z.ZodType): FieldMeta => {
  const meta = fields.get(schema);
  if (meta) return meta;
  if (isWrapper(schema)) return metaOf(name, (schema as unknown as Wrapper).unwrap());
  throw new Error(`field ${name} is not declared (${schema.type})`);
};

/** A field of which a thing never has another value. */
export const constant = <S extends z.ZodType>(schema: S): S =>
  field(schema, { ...metaOf('constant', schema), constant: true });

/** A field that changes by a movement, since more than itself changes with it. */
export const byMovement = <S extends z.ZodType>(door: string, schema: S): S =>
  field(schema, { ...metaOf('byMovement', schema), door });

/** A field that the page of its record leaves out. */
export const quiet = <S extends z.ZodType>(schema: S): S =>
  field(schema, { ...metaOf('quiet', schema), quiet: true });

/** Id of a thing, a row or an entry: one sequence numbers them all, so an id never means two things. */
export const Id = z.int().positive();
export type Id = z.infer<typeof Id>;

/** Decimal text, never a binary number: up to 13 digits before and 4 after the point; zeros at its end are dropped. */
export const Decimal = z
  .string()
  .regex(/^-?\d{1,13}(\.\d{1,4})?$/, { error: 'decimal_invalid' })
  .overwrite((text) => (text.includes('.') ? text.replace(/\.?0+$/, '') : text));

/** Hours or shares in hundredths: 37.5 h is 3750. */
export const Hundredths = z.int().min(0).max(1_000_000);

const isZone = (name: string): boolean => {
  if (!/^[A-Za-z][\w+-]*(\/[\w+-]+)*$/.test(name)) return false;
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
};
/** A time zone by its name in the IANA database: one that is not in it would leave nobody a "today". */
export const TimeZone = z.string().max(60).refine(isZone, { error: 'time_zone_unknown' });

/** A line of text, up to 200 signs, without blanks around it. */
export const Text = z.string().trim().min(1).max(200);
/** A short text by which things are known, up to 40 signs. */
export const Code = z.string().trim().min(1).max(40);
/** A currency by its three letters (ISO 4217). */
export const Currency = z.string().regex(/^[A-Z]{3}$/, { error: 'currency_invalid' });
/** A country by its two letters (ISO 3166-1). */
export const Country = z.string().regex(/^[A-Z]{2}$/, { error: 'country_invalid' });

type Also = { followed?: true; looked?: true };

/** A field that names another thing. The law `reference_missing` asks that it exists on every day of the row. */
export const refTo = (kind: Kind, also: Also = {}) => field(Id, { is: 'ref', kind, ...also });
/** A field that names a thing which need not exist on the days of the row (an employment that this one continues). */
export const refToPast = (kind: Kind, also: Also = {}) => field(Id, { is: 'ref', kind, past: true, ...also });
/** An entry of a list (law `list_wrong`). */
export const list = (name: ListName) => field(Id, { is: 'list', list: name });

/** A line of text. */
export const text = () => field(Text, { is: 'text' });
/** Text checked by a schema of its own. */
export const textAs = <S extends z.ZodType>(schema: S, also: Also & { long?: true } = {}) =>
  field(schema, { is: 'text', ...also });
/** A code; looked for by its text. */
export const code = () => field(Code, { is: 'code', looked: true });
/** A calendar day. */
export const day = () => field(Day, { is: 'day' });
/** A whole number between two others, both allowed. */
export const whole = (least: number, most: number) => field(z.int().min(least).max(most), { is: 'number' });
/** The number of a month. */
export const month = () => field(z.int().min(1).max(12), { is: 'number', said: 'month' });
/** The number of a day of the week: 1 is Monday. */
export const weekday = () => field(z.int().min(1).max(7), { is: 'number', said: 'weekday' });
/** There are no more hours in a week. */
export const MOST_HOURS = 168;
/** Hours a week, in hundredths. */
export const hours = (schema: z.ZodNumber = Hundredths, also: { zero?: true } = {}) =>
  field(schema, { is: 'hundredths', unit: 'hours', most: MOST_HOURS, ...also });
/** A share of full time, in hundredths of an FTE. */
export const share = (schema: z.ZodNumber = Hundredths) => field(schema, { is: 'hundredths', unit: 'fte' });
/** An exact decimal number as text. */
export const decimal = () => field(Decimal, { is: 'decimal' });
/** An exact decimal number above another one. */
export const decimalAbove = (least: number) =>
  field(
    Decimal.refine((text) => !(Number(text) <= least), { error: 'decimal_invalid' }),
    { is: 'decimal' },
  );
/** Yes or no. */
export const yesNo = () => field(z.boolean(), { is: 'yes_no' });
/** One of a few words. */
export const choice = <const O extends readonly [string, ...string[]]>(...options: O) =>
  field(z.enum(options), { is: 'choice', options });
/** One of the words of a schema. */
export const choiceOf = <S extends z.ZodEnum>(schema: S) =>
  field(schema, { is: 'choice', options: schema.options.map(String) });
/** Several of a few words, one at least; in the order of the options. */
export const choices = <const O extends readonly [string, ...string[]]>(...options: O) =>
  field(
    z
      .array(z.enum(options))
      .min(1)
      .overwrite(
        (chosen) => options.filter((option) => chosen.includes(option as O[number])) as typeof chosen,
      ),
    { is: 'choices', options },
  );
/** A country. */
export const country = () => field(Country, { is: 'country' });
/** A currency. */
export const currency = () => field(Currency, { is: 'currency' });
/** A currency by which things are known: each once a day, as a code is. */
export const currencyCode = () =>
  field(
    z
      .string()
      .trim()
      .toUpperCase()
      .regex(/^[A-Z]{3}$/, { error: 'currency_invalid' }),
    { is: 'code', looked: true },
  );
/** A time zone. */
export const timeZone = () => field(TimeZone, { is: 'time_zone' });
/** Several entries of a list, one at least. */
export const lists = (name: ListName) =>
  field(
    z
      .array(Id)
      .min(1)
      .max(100)
      .refine((ids) => new Set(ids).size === ids.length, { error: 'value_invalid' }),
    { is: 'lists', list: name },
  );
/** A time of the day, kept as 08:30; typed as 8:30, 8.30 or 0830 too. */
export const timeOfDay = () =>
  textAs(
    z
      .string()
      .trim()
      .overwrite((typed) =>
        typed.replace(/^(\d{1,2})[:.]?(\d{2})$/, (_, h: string, m: string) => `${h.padStart(2, '0')}:${m}`),
      )
      .regex(/^([01]\d|2[0-3]):[0-5]\d$/, { error: 'time_invalid' }),
  );
/** An object or list that only its own rules read. */
export const json = <S extends z.ZodType>(schema: S) => field(schema, { is: 'json' });

/** Ids of several things of a kind, each once. */
export const refsTo = (kind: Kind, most = 2000) =>
  field(
    z
      .array(Id)
      .min(1)
      .max(most)
      .refine((ids) => new Set(ids).size === ids.length, { error: 'value_invalid' }),
    { is: 'refs', kind },
  );

/** What files are kept, by what their content is. */
export const FileType = z.enum(['pdf', 'png', 'jpg', 'webp', 'docx', 'xlsx', 'pptx', 'odt', 'ods', 'txt']);
export type FileType = z.infer<typeof FileType>;

/** A kept file: its id is nothing that can be guessed; type and size are those of its content. */
export const FileRef = z.strictObject({
  id: z.string().regex(/^[0-9a-f]{32}$/),
  name: z.string().trim().min(1).max(200),
  type: FileType,
  bytes: z.int().min(1),
  /** SHA-256 of its content, in hexadecimal; rows of before it was kept have none. */
  digest: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
});
export type FileRef = z.infer<typeof FileRef>;
/** A file. */
export const file = () => field(FileRef, { is: 'file' });

const inJson: readonly FieldMeta['is'][] = ['json', 'money', 'lists', 'choices', 'refs', 'file'];

/** How a field is kept: decimal text as numeric, objects and arrays as JSON, the rest as it is. */
export const storageOf = ({ is }: FieldMeta): 'decimal' | 'json' | 'plain' =>
  is === 'decimal' ? 'decimal' : inJson.includes(is) ? 'json' : 'plain';

/** What a value of a field is in memory: the id of another thing, a whole number, yes or no, an object, or text. */
export const cellOf = ({ is }: FieldMeta): 'reference' | 'number' | 'boolean' | 'json' | 'text' => {
  if (is === 'ref' || is === 'list') return 'reference';
  if (inJson.includes(is)) return 'json';
  if (is === 'number' || is === 'hundredths') return 'number';
  return is === 'yes_no' ? 'boolean' : 'text';
};

/** How far apart fields stand that nobody placed: the first at 100, the next at 200. */
export const PLACE = 100;

/** Fields of a section in the order in which they are shown: as declared, but where the organisation placed one. */
export const orderedMetas = (metas: ReadonlyMap<string, FieldMeta>): [string, FieldMeta][] =>
  [...metas]
    .map(([name, meta], i) => ({ name, meta, place: meta.place ?? (i + 1) * PLACE, i }))
    .sort((a, b) => a.place - b.place || a.i - b.i)
    .map(({ name, meta }) => [name, meta]);
