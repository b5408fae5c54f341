import type { Row } from '@gremium/contract';
import { type Register, hundredths, nextStep, payPlaceOn, primaryPlacement } from '@gremium/core';
import { Link } from 'react-router';
import { useLens, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { rangeOfEmployment, useRangeInWords } from './pay-in-words';

const en = {
  heading: 'Compared with the grade',
  grade: 'Grade',
  range: 'Range for this pay',
  compaRatio: 'Pay ÷ middle (compa-ratio)',
  place: 'Place in the range',
  outside: 'outside the range',
  step: 'Step',
  nextStep: 'Next step',
  next: (step: number, day: string) => `step ${step} on ${day}`,
  stopped: 'the clock has stopped by an absence without an end',
  since: (day: string) => `since ${day}`,
};
const de: typeof en = {
  heading: 'Verglichen mit der Entgeltgruppe',
  grade: 'Entgeltgruppe',
  range: 'Spanne für dieses Entgelt',
  compaRatio: 'Entgelt ÷ Mitte (Compa-Ratio)',
  place: 'Lage in der Spanne',
  outside: 'außerhalb der Spanne',
  step: 'Stufe',
  nextStep: 'Nächste Stufe',
  next: (step, day) => `Stufe ${step} am ${day}`,
  stopped: 'die Zeit ruht wegen einer Abwesenheit ohne Ende',
  since: (day) => `seit ${day}`,
};

type ComparedProps = { register: Register; employmentId: number; pay: readonly Row<'pay'>[] };

/** Base pay beside the range of the grade, both at the hours that the range stands for; and when the next step comes. */
export const PayCompared = ({ register, employmentId, pay }: ComparedProps) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const to = useTo();
  const { on } = useLens();
  const placement = primaryPlacement(register, employmentId, on);
  const gradeId = placement && register.at('position', placement.values.positionId, on)?.gradeId;
  const grade = gradeId ? register.at('grade', gradeId, on) : undefined;
  const compared = pay.find((row) => payPlaceOn(register, row, on) !== undefined);
  const place = compared && payPlaceOn(register, compared, on);
  const said = compared && rangeOfEmployment(register, compared.values, on);
  const rangeInWords = useRangeInWords();
  const next = nextStep(register, employmentId, on);
  if (!gradeId || !grade || (!place && !next)) return null;
  const lines = [
    {
      label: words.grade,
      value: <Link to={to(pathOf('grade', gradeId))}>{grade.name}</Link>,
    },
    ...(place
      ? [
          {
            label: words.range,
            value: said ? rangeInWords(said) : '',
          },
          {
            label: words.compaRatio,
            value: place.compaRatio ? format.hundredths(hundredths(place.compaRatio)) : '–',
          },
          {
            label: words.place,
            value: place.isOutside ? (
              <span className="ochre">! {words.outside}</span>
            ) : place.placeInRange ? (
              `${format.number(hundredths(place.placeInRange))} %`
            ) : (
              '–'
            ),
          },
        ]
      : []),
    ...(next
      ? [
          {
            label: words.step,
            value: `${next.step} (${words.since(format.day(next.since))})`,
          },
          {
            label: words.nextStep,
            value: next.due ? words.next(next.step + 1, format.day(next.due)) : words.stopped,
          },
        ]
      : []),
  ];
  return (
    <section className="block" id="section-pay-compared">
      <h2>{words.heading}</h2>
      <dl className="facts">
        {lines.map(({ label, value }) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
};
