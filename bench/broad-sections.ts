// Forty sections: those there are, and others of a person. Workers load this module too.
import { Catalogue, type Kind, type Section, presetSections, refTo, section, text } from '@gremium/contract';
import { z } from 'zod';

export const SECTIONS = 40;

const extra = (i: number): Section => {
  const name = `extra_${String.fromCharCode(97 + i)}`;
  const fields = z.strictObject({ personId: refTo('person', { followed: true }), note: text() });
  return section(name, name as Kind, fields, { owner: 'personId' }) as unknown as Section;
};

export const extras = Array.from({ length: SECTIONS - presetSections.length }, (_, i) => extra(i));
export const catalogue = new Catalogue([...presetSections, ...extras]);

export const broad = { catalogue, from: import.meta.url };
