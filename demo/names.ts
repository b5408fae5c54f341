import { da, de, Faker, fi, nb_NO, sv } from '@faker-js/faker';
import type { Chance } from './random';

// The usual package has no Estonian names: common ones, put together by chance like all others.
const ESTONIAN = {
  female: [
    'Kadri',
    'Liis',
    'Piret',
    'Ülle',
    'Helle',
    'Anneli',
    'Triin',
    'Maarja',
    'Kersti',
    'Signe',
    'Eha',
    'Mari-Liis',
  ],
  male: [
    'Priit',
    'Jaan',
    'Marek',
    'Urmas',
    'Tõnu',
    'Rein',
    'Aivar',
    'Märt',
    'Kaarel',
    'Jüri',
    'Siim',
    'Taavi',
  ],
  family: [
    'Tamm',
    'Saar',
    'Mägi',
    'Kask',
    'Rebane',
    'Ilves',
    'Pärn',
    'Kuusk',
    'Lepik',
    'Oja',
    'Org',
    'Raud',
    'Kivi',
    'Sild',
    'Põder',
  ],
};

export type Made = { given: string; family: string; gender: 'female' | 'male'; nationality: string };

const locales = { FI: [fi], SE: [sv], DK: [da], NO: [nb_NO], DE: [de] } as const;

/** Made-up people, with names in the languages of the places. */
export class Names {
  private readonly fakers = new Map<string, Faker>();

  constructor(seed: number) {
    for (const [country, locale] of Object.entries(locales)) {
      const faker = new Faker({ locale: [...locale] });
      faker.seed(seed);
      this.fakers.set(country, faker);
    }
  }

  next(country: string, chance: Chance): Made {
    const nationality = chance.is(0.88) ? country : chance.pick(['FI', 'EE', 'SE', 'DK', 'NO', 'DE']);
    const gender = chance.is(0.44) ? 'female' : 'male';
    const faker = this.fakers.get(nationality);
    if (!faker)
      return {
        given: chance.pick(ESTONIAN[gender]),
        family: chance.pick(ESTONIAN.family),
        gender,
        nationality,
      };
    return {
      given: faker.person.firstName(gender),
      family: faker.person.lastName(gender),
      gender,
      nationality,
    };
  }
}
