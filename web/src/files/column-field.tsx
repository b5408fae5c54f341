// A column of a file that finds no field becomes one: what its cells would be kept in is proposed, and made in its place.
import { type ImportOut, type OwnSection, fileEndpoints, ownFieldName, ownName } from '@gremium/contract';
import { codeFrom } from '@gremium/core';
import { useQuery } from '@tanstack/react-query';
import { Input, Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { FieldForm } from '../structure/own-forms';
import { type OwnActs, sectionsDefined, useOwnActs } from '../structure/own-acts';
import { useWords } from '../texts/words';
import { useReference } from '../time/time.queries';
import { EntryField } from '../ui/entry-field';
import { useSectionName } from '../ui/section-name';

const words = {
  en: {
    section: 'In the section',
    fresh: 'a new section',
    called: 'Called',
    unnamed: 'Further details',
    said: (count: number) => (count === 1 ? 'One cell says something.' : `${count} cells say something.`),
    unfit: (count: number) =>
      count === 1 ? 'One does not fit this kind.' : `${count} do not fit this kind.`,
  },
  de: {
    section: 'Im Abschnitt',
    fresh: 'ein neuer Abschnitt',
    called: 'Name',
    unnamed: 'Weitere Angaben',
    said: (count: number) => (count === 1 ? 'Eine Zelle sagt etwas.' : `${count} Zellen sagen etwas.`),
    unfit: (count: number) =>
      count === 1 ? 'Eine passt nicht zu dieser Art.' : `${count} passen nicht zu dieser Art.`,
  },
};

/** The own section that files about a subject fill; null of people, who may have several. */
const sectionOf = (subject: string): number | null =>
  subject.startsWith('own.') ? Number(subject.slice(4)) : null;

/** Whether columns of files about a subject can become fields. */
export const canBecomeFields = (subject: string): boolean =>
  subject === 'people' || sectionOf(subject) !== null;

const newSection = (called: string, place: number): OwnSection => ({
  ...{ code: codeFrom(called), label: { en: called, de: called }, of: 'person', several: false },
  ...{ sensitive: false, place, seenBy: null, editedBy: null, retired: null },
});

type Props = { of: ImportOut; at: number; onMade: (field: string) => void; onLeave: () => void };

/** The form of a field that a column becomes. */
export const ColumnField = ({ of, at, onMade, onLeave }: Props) => {
  const rows = useReference();
  const acts = useOwnActs(rows ?? []);
  const { data: proposed } = useQuery({
    queryKey: ['imports', 'proposed', of.id, at],
    queryFn: () => call(fileEndpoints.proposedField, { params: { id: of.id, at } }),
    retry: false,
    meta: { reads: [] },
  });
  const heading = of.columns[at]?.heading ?? '';
  if (!rows || !proposed) return null;
  return <Making {...{ of, acts, heading, proposed, rows, onMade, onLeave }} />;
};

type MakingProps = Omit<Props, 'at'> & {
  acts: OwnActs;
  heading: string;
  proposed: { kind: string; choices: string[]; said: number; unfit: number };
  rows: NonNullable<ReturnType<typeof useReference>>;
};

const Making = ({ of, acts, heading, proposed, rows, onMade, onLeave }: MakingProps) => {
  const said = useWords(words);
  const { i18n } = useTranslation();
  const nameOfSection = useSectionName();
  const fixed = sectionOf(of.subject);
  const sections = sectionsDefined(rows).filter(
    ({ values }) => values.of === 'person' && !values.several && !values.retired,
  );
  const [chosen, setChosen] = useState<number>(fixed ?? sections[0]?.id ?? 0);
  const [name, setName] = useState('');
  const placeOf = (all: readonly { values: { place: number } }[]) => (all.at(-1)?.values.place ?? -10) + 10;
  const fields = sectionsDefined(rows).find(({ id }) => id === chosen)?.fields ?? [];
  const made = async (values: Parameters<OwnActs['addField']['mutateAsync']>[0]['asked']) => {
    const called = name.trim() || said.unnamed;
    const section =
      chosen ||
      (
        (await acts.addSection.mutateAsync({
          asked: newSection(called, placeOf(sectionsDefined(rows))),
          text: called,
        })) as unknown as { id: number }
      ).id;
    const field = (await acts.addField.mutateAsync({
      asked: { ...values, values: { ...values.values, sectionId: section } },
      text: heading,
    })) as unknown as { id: number };
    onMade(fixed === null ? `${ownName(section)}.${ownFieldName(field.id)}` : ownFieldName(field.id));
  };
  return (
    <div className="columnfield">
      <p className="source">
        {said.said(proposed.said)} {proposed.unfit > 0 && said.unfit(proposed.unfit)}
      </p>
      {fixed === null && (
        <div className="entryfields">
          <EntryField label={said.section}>
            <Select
              aria-label={said.section}
              variant="underlined"
              value={chosen}
              options={[
                ...sections.map(({ id }) => ({ value: id, label: nameOfSection(ownName(id)) })),
                { value: 0, label: said.fresh },
              ]}
              onChange={setChosen}
            />
          </EntryField>
          {chosen === 0 && (
            <EntryField label={said.called}>
              <Input
                aria-label={said.called}
                variant="underlined"
                className="line-input"
                maxLength={200}
                placeholder={said.unnamed}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            </EntryField>
          )}
        </div>
      )}
      <FieldForm
        begin={{
          kind: proposed.kind as 'text',
          [i18n.language === 'de' ? 'de' : 'en']: heading,
          choices: proposed.choices.join('\n'),
        }}
        sectionId={chosen}
        mayAsk={fixed === null}
        place={placeOf(fields)}
        error={acts.addSection.error ?? acts.addField.error}
        isBusy={acts.addSection.isPending || acts.addField.isPending}
        onLeave={onLeave}
        onSave={(values) => void made(values).catch(() => undefined)}
      />
    </div>
  );
};
