import '../structure/steps.css';
import { honourEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { useReferenceRegister } from '../time/time.queries';
import { readsOf } from '../time/touched';
import { labelIn } from '../ui/field-value';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { Views } from '../ui/views';

const en = {
  lead: 'What people declared of themselves because a law asks for it. Nobody sees who said what: there are figures only, of all who count in headcount, on the first of a month, as recorded by then. Fewer than five are not told, nor what would give them away.',
  on: (day: string, counted: string) => `On ${day}, of ${counted} people`,
  question: 'Question',
  answer: 'Declared',
  count: 'People',
  few: 'not told',
  total: 'All who said something',
  none: 'No facts are set up to be declared. They stand among the lists.',
};
const de: typeof en = {
  lead: 'Was Menschen von sich selbst angegeben haben, weil ein Gesetz danach fragt. Niemand sieht, wer was gesagt hat: es gibt nur Zahlen, über alle, die im Personalstand zählen, am Ersten eines Monats, wie bis dahin erfasst. Weniger als fünf werden nicht genannt, und auch nicht, was sie verraten würde.',
  on: (day, counted) => `Am ${day}, von ${counted} Personen`,
  question: 'Frage',
  answer: 'Angabe',
  count: 'Personen',
  few: 'nicht genannt',
  total: 'Alle Angaben',
  none: 'Es sind keine Angaben eingerichtet. Sie stehen in den Listen.',
};

/** Figures of what people declared of themselves. */
export const DeclaredFigures = () => {
  const words = useWords({ en, de });
  const pageName = useNameOfPage('/reports/declared');
  const { i18n } = useTranslation();
  const format = useFormat();
  const { on } = useLens();
  const register = useReferenceRegister();
  const { data, error } = useQuery({
    queryKey: ['declared figures', on],
    queryFn: () => call(honourEndpoints.declaredFigures, { query: { on } }),
    meta: readsOf('declared_fact', 'employment', 'list_entry'),
  });
  const told = (count: number | null) => (count === null ? words.few : format.number(count));
  return (
    <main className="sheet templates">
      <Views of="reports" />
      <div className="steps">
        <h1>{pageName}</h1>
        <p className="soft">{words.lead}</p>
        <Problems of={error} />
        {data && data.questions.length === 0 && <p>{words.none}</p>}
        {data && register && data.questions.length > 0 && (
          <>
            <p>{words.on(format.day(data.day), format.number(data.counted))}</p>
            <PlainTable
              heads={[
                { label: words.question },
                { label: words.answer },
                { label: words.count, isNumber: true },
              ]}
              rows={data.questions.flatMap(({ question, cells, total }) => [
                ...cells.map(({ factId, count }, i) => ({
                  key: factId,
                  cells: [i === 0 ? question : '', labelIn(register, factId, i18n.language), told(count)],
                })),
                {
                  key: `total ${question}`,
                  cells: ['', <b key="total">{words.total}</b>, <b key="count">{told(total)}</b>],
                },
              ])}
            />
          </>
        )}
      </div>
    </main>
  );
};
