import {
  type FieldMeta,
  type FieldOut,
  type Labels,
  type PresetName,
  type Section,
  type SectionName,
  type SectionOut,
  catalogueEndpoints,
  fieldLabel,
  levelOn,
  ownFieldName,
  ownName,
  seenSection,
} from '@gremium/contract';
import { labels as de } from '@gremium/contract/labels/de';
import { labels as en } from '@gremium/contract/labels/en';
import type { FastifyInstance } from 'fastify';
import { serve } from '../serve';
import type { Server } from './act';
import type { Catalogues, Seer } from './catalogues';
import { look } from './lens';
import type { RegisterThread } from './register-thread';

const LANGUAGES = { en, de };
type Definitions = Catalogues['definitions'];
type Saying = { language: 'en' | 'de'; labels: Labels; definitions: Definitions };

// What an own section or field says of itself, by its name.
const ownWords = ({ definitions, language, labels }: Saying, name: string) => {
  const found = [...definitions.sections, ...definitions.fields].find(
    ({ id }) => ownName(id) === name || ownFieldName(id) === name,
  );
  const help = found && 'help' in found.values ? found.values.help : null;
  return found ? { label: found.values.label[language], help } : { label: labels.kind.own_field, help: null };
};

const wordsOf = (saying: Saying, { name: section, own, owner, metas }: Section, name: string) => {
  const { labels } = saying;
  const called = metas.get(name)?.label?.[saying.language];
  if (own !== null && name === owner?.field) return { label: labels.kind[owner.kind], help: null };
  if (own !== null) return ownWords(saying, name);
  const help = (labels.help[section as PresetName] as Record<string, string> | undefined)?.[name] ?? null;
  return { label: called ?? fieldLabel(labels, section, name) ?? name, help };
};

const optionsOf = (saying: Saying, meta: FieldMeta) =>
  meta.is === 'choice'
    ? {
        options: meta.options.map((value) => ({
          value,
          label: (saying.labels.choice as Record<string, string>)[value] ?? value,
        })),
      }
    : {};

const fieldOut = (saying: Saying, section: Section, name: string, meta: FieldMeta): FieldOut => ({
  id: `${section.name}.${name}`,
  name,
  ...wordsOf(saying, section, name),
  is: meta.is,
  nullable: name in section.nulls,
  ...('unit' in meta ? { unit: meta.unit } : {}),
  ...optionsOf(saying, meta),
  ...(meta.is === 'list' || meta.is === 'lists' ? { list: meta.list } : {}),
  ...(meta.is === 'ref' ? { kind: meta.kind } : {}),
  quiet: meta.quiet === true,
});

const sectionOut = (saying: Saying, viewer: Seer, section: Section): SectionOut => ({
  name: section.name as SectionName,
  label:
    section.own === null
      ? (saying.labels.section[section.name as PresetName] ?? section.name)
      : ownWords(saying, section.name).label,
  kind: section.kind,
  owner: section.owner?.kind ?? null,
  several: section.several,
  sensitive: section.sensitive,
  level: levelOn(viewer.grants, section.name),
  fields: [...seenSection(section, viewer.grants).metas].map(([name, meta]) =>
    fieldOut(saying, section, name, meta),
  ),
});

export const serveCatalogue = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  serve(app, server, catalogueEndpoints.catalogue, async ({ viewer }) => {
    const { catalogue, grants, language } = viewer;
    const saying = { language, labels: LANGUAGES[language], definitions: server.catalogues.definitions };
    const seen = catalogue.sections.filter(({ name }) => levelOn(grants, name) !== 'none');
    return { number: catalogue.number, sections: seen.map((one) => sectionOut(saying, viewer, one)) };
  });

  serve(app, server, catalogueEndpoints.sectionRows, async ({ params, query, viewer }) => {
    const section = viewer.catalogue.section(params.section).name as SectionName;
    const looking = await look(server.pool, server.clock, query);
    const { limit, offset } = query;
    return register.write('sectionRows', { viewer, looking }, { section, limit, offset });
  });
};
