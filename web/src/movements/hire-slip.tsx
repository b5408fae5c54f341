import type { Day, HireInput, Values } from '@gremium/contract';
import { type Register, payRange } from '@gremium/core';
import { Input } from 'antd';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { usePayInWords } from '../people/pay-in-words';
import { Choice, DayInput, Understood, listOptions } from '../ui/field-input';
import { readAmount } from '../ui/typed';
import { type LocalDraft, keepDraft } from './drafts';
import { MovementSlip } from './movement-slip';
import { ReasonField, SlipField, type Words } from './slip-parts';
import { type SlipShowing, useSlipShowing } from './slip-showing';

/** What is typed in a hire; everything else the position says. */
export type HireContent = {
  positionId: number;
  firstDay: Day;
  given?: string;
  family?: string;
  contact?: string;
  phone?: string;
  birthDate?: string | null;
  lastDay?: string | null;
  contractKindId?: number | null;
  reasonId?: number | null;
  amount?: string;
  words?: Words;
};

type Terms = { contractKindId: number | null; payKindId: number | null; currency: string | null };

/** Contract kind, pay kind and currency that a hire into a position would have if nothing is typed. */
const termsOf = (
  { register, entityOf }: SlipShowing,
  { positionId, firstDay, ...typed }: HireContent,
): Terms => {
  const position = register.at('position', positionId, firstDay);
  const lists = [...register.allOn('list_entry', firstDay)];
  const fromUnit = position && register.at('unit_hiring', position.unitId, firstDay)?.contractKindId;
  const entityId = entityOf(positionId);
  return {
    contractKindId:
      typed.contractKindId ??
      fromUnit ??
      lists.find(({ values }) => values.list === 'contract_kind')?.thing ??
      null,
    payKindId:
      lists.find(({ values }) => values.list === 'pay_kind' && values.flags.base === true)?.thing ?? null,
    currency: entityId ? (register.at('legal_entity', entityId, firstDay)?.currency ?? null) : null,
  };
};

const isEmail = (contact: string): boolean => contact.includes('@');

const inputOf = (content: HireContent, terms: Terms, amount: string | null): HireInput => {
  const { positionId, firstDay, given, family, contact = '', phone = '', birthDate, lastDay } = content;
  const contacts = [
    ...(contact.trim().length >= 3
      ? [{ kind: isEmail(contact) ? ('email' as const) : ('phone' as const), value: contact.trim() }]
      : []),
    ...(phone.trim().length >= 3 ? [{ kind: 'phone' as const, value: phone.trim() }] : []),
  ];
  const pay: Omit<Values<'pay'>, 'employmentId' | 'reasonId'>[] =
    amount && terms.payKindId && terms.currency
      ? [{ kindId: terms.payKindId, amount, currency: terms.currency, basis: 'month', rate: 'full_time' }]
      : [];
  return {
    person: {
      name: { given: given?.trim() || null, family: family?.trim() || null },
      contacts,
      ...(birthDate ? { birthDate: birthDate as Day } : {}),
    },
    firstDay,
    ...(lastDay ? { lastDay: lastDay as Day } : {}),
    positionId,
    ...(terms.contractKindId
      ? {
          contract: {
            kindId: terms.contractKindId,
            ...(lastDay ? { fixedUntil: lastDay as Day } : {}),
          },
        }
      : {}),
    pay,
    reasonId: content.reasonId ?? null,
  };
};

/** The slip of a hire into a vacant position: name, one contact, first day, pay. */
export const HireSlip = ({ draft }: { draft: LocalDraft }) => {
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const { today } = useLens();
  const id = useId();
  const content = draft.content as HireContent;
  const payInWords = usePayInWords();
  const showing = useSlipShowing([content.positionId]);
  const put = (changes: Partial<HireContent>) => keepDraft({ ...draft, content: { ...content, ...changes } });
  if (!showing) return <p className="waiting">{t('waiting')}</p>;
  const { register, nameOf } = showing;
  const terms = termsOf(showing, content);
  const typed = content.amount?.trim() ? readAmount(content.amount, i18n.language) : null;
  const input = inputOf(content, terms, typed && 'value' in typed ? String(typed.value) : null);
  const isNamed = Boolean(content.given?.trim() || content.family?.trim());
  const range = rangeOf(register, content, terms.currency);
  const text = (field: 'given' | 'family' | 'contact' | 'phone' | 'amount', autoFocus = false) => (
    <Input
      id={`${id}${field}`}
      autoFocus={autoFocus}
      className="line-input"
      variant="underlined"
      autoComplete="off"
      maxLength={200}
      value={content[field] ?? ''}
      onChange={(event) => put({ [field]: event.target.value })}
    />
  );
  const name = [content.given, content.family].filter(Boolean).join(' ');
  return (
    <MovementSlip
      draft={draft}
      title={name || t('slip.newPerson')}
      lead={t('slip.hireInto', { position: nameOf('position', content.positionId) })}
      asking={{ kind: 'hire', input }}
      missing={[
        ...(isNamed ? [] : [t('slip.needsName')]),
        ...(typed && 'problem' in typed ? [t('slip.needsAmount')] : []),
        ...(input.person && 'contacts' in input.person && input.person.contacts.length > 0
          ? []
          : [t('slip.needsContact')]),
      ]}
      hidden={['name_missing', 'contact_missing']}
      words={content.words ?? {}}
      onWords={(words) => put({ words })}
      showing={showing}
      submit={t('slip.completeHire')}
    >
      <div className="pair">
        <SlipField id={`${id}given`} label={t('field.given')}>
          {text('given', true)}
        </SlipField>
        <SlipField id={`${id}family`} label={t('field.family')}>
          {text('family')}
        </SlipField>
      </div>
      <SlipField id={`${id}contact`} label={t('slip.contact')} source={t('slip.contactHelp')}>
        {text('contact')}
      </SlipField>
      <div className="pair">
        <SlipField
          id={`${id}firstDay`}
          label={t('slip.firstDay')}
          source={content.firstDay === today ? null : t('source.lens')}
        >
          <DayInput
            id={`${id}firstDay`}
            value={content.firstDay}
            onChange={(day) => day && put({ firstDay: day as Day })}
          />
        </SlipField>
        <SlipField
          id={`${id}amount`}
          label={t('slip.payMonth', { currency: terms.currency ?? '' })}
          source={
            !range || typed
              ? null
              : t('slip.range', {
                  minimum: format.decimal(range.minimum),
                  maximum: format.decimal(range.maximum),
                })
          }
        >
          {text('amount')}
          {typed && (
            <Understood
              read={typed}
              say={(amount) =>
                payInWords({ amount: String(amount), currency: terms.currency ?? '', basis: 'month', range })
              }
              onTake={(amount) => put({ amount })}
            />
          )}
        </SlipField>
      </div>
      <div className="pair">
        <SlipField id={`${id}contract`} label={t('section.contract')} source={t('source.preset')}>
          <Choice
            id={`${id}contract`}
            label={t('section.contract')}
            clearable={false}
            value={terms.contractKindId}
            onChange={(kind) => put({ contractKindId: kind as number })}
            options={listOptions(register, 'contract_kind', {
              on: content.firstDay,
              language: i18n.language,
            })}
          />
        </SlipField>
        <ReasonField
          id={`${id}reason`}
          act="hire"
          register={register}
          on={content.firstDay}
          value={content.reasonId ?? null}
          onChange={(reasonId) => put({ reasonId })}
        />
      </div>
      <details>
        <summary>{t('slip.more')}</summary>
        <div className="pair">
          <SlipField id={`${id}birthDate`} label={t('field.birthDate')}>
            <DayInput
              id={`${id}birthDate`}
              value={content.birthDate ?? null}
              onChange={(day) => put({ birthDate: day as string | null })}
            />
          </SlipField>
          <SlipField id={`${id}lastDay`} label={t('slip.lastDay')}>
            <DayInput
              id={`${id}lastDay`}
              value={content.lastDay ?? null}
              onChange={(day) => put({ lastDay: day as string | null })}
            />
          </SlipField>
        </div>
        <SlipField id={`${id}phone`} label={t('choice.phone')}>
          {text('phone')}
        </SlipField>
      </details>
    </MovementSlip>
  );
};

const rangeOf = (register: Register, { positionId, firstDay }: HireContent, currency: string | null) => {
  const gradeId = register.at('position', positionId, firstDay)?.gradeId;
  return gradeId && currency ? payRange(register, gradeId, currency, firstDay) : undefined;
};
