// What an account sees on a day: how many people and by which gift, sections by level, acts, samples.
import { type AccountOut, type Level, type SectionName } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import type { Texts } from '../texts/en';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { wholeCatalogue } from '../time/catalogue-now';
import { DayInput, isDay } from '../ui/day-input';
import { useFieldName } from '../ui/field-name';
import { Problems } from '../ui/problems';
import { useSectionName } from '../ui/section-name';
import { useRoleName, useSight } from './access.queries';
import { accessWords } from './access-words';

/** What somebody sees on a day. */
export const SightPanel = ({ account }: { account: AccountOut }) => {
  const words = useWords(accessWords);
  const { t } = useTranslation();
  const { on } = useLens();
  const [day, setDay] = useState<string | null>(on);
  const { data: sight, error } = useSight(account.id, isDay(day) ? day : undefined);
  return (
    <section aria-labelledby="sight" className="sight">
      <h2 id="sight">{words.whatSees(account.name)}</h2>
      <DayInput id="sight-day" label={words.whatSees(account.name)} value={day} onChange={setDay} whenLeft />
      <Problems of={error} />
      {!sight && !error && <p className="soft">{t('waiting')}</p>}
      {sight && <Seen sight={sight} />}
    </section>
  );
};

type SightOut = NonNullable<ReturnType<typeof useSight>['data']>;

const Seen = ({ sight }: { sight: SightOut }) => {
  const words = useWords(accessWords);
  const { t, i18n } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const roleName = useRoleName();
  const nameOf = useSectionName();
  const fieldName = useFieldName();
  const part = sight.of === 0 ? 0 : sight.people / sight.of;
  const at = (level: Level): string =>
    Object.entries(sight.sections)
      .filter(([, given]) => given === level)
      .map(([name]) => nameOf(name as SectionName))
      .join(', ');
  const never = wholeCatalogue()
    .sections.filter(({ name, byOneself }) => !byOneself && !(name in sight.sections))
    .map(({ name }) => nameOf(name as SectionName))
    .join(', ');
  const hides = sight.hides
    .map((field) =>
      fieldName(field.slice(0, field.lastIndexOf('.')), field.slice(field.lastIndexOf('.') + 1)),
    )
    .join(', ');
  const acts = sight.acts.map((act) => t(`choice.${act as keyof Texts['choice']}`)).join(', ');
  const lines: [string, string][] = [
    [words.changes, at('edit')],
    [words.proposes, at('propose')],
    [words.sees, [at('view'), hides && words.without(hides)].filter(Boolean).join('; ')],
    [words.may, acts],
    [words.never, never],
  ];
  return (
    <>
      <p className="sightcount">
        <strong className="n">{format.number(sight.people)}</strong> {words.ofPeople(format.number(sight.of))}
      </p>
      <div className="sightbar" aria-hidden="true">
        <span style={{ width: `${part * 100}%` }} />
      </div>
      <ul className="plainlist">
        {sight.by.map((one) => (
          <li key={one.gift ?? -1}>
            <span>
              {roleName(one.role)}, {i18n.language === 'de' ? one.said.de : one.said.en}
            </span>
            <span className="n">{format.number(one.people)}</span>
          </li>
        ))}
      </ul>
      <dl className="sightlines">
        {lines
          .filter(([, said]) => said !== '')
          .map(([label, said]) => (
            <div key={label}>
              <dt>{label}</dt>
              <dd>{said}</dd>
            </div>
          ))}
        {sight.samples.length > 0 && (
          <div>
            <dt>{words.example}</dt>
            <dd>
              {sight.samples.map(({ id, name }, i) => (
                <span key={id}>
                  {i > 0 && ', '}
                  <Link to={to(pathOf('person', id))}>{name}</Link>
                </span>
              ))}
            </dd>
          </div>
        )}
      </dl>
    </>
  );
};
