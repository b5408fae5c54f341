// Drawn portraits of nobody: a head, hair and shoulders in a few colours, the same from one seed. No photographs.
import { type Picture, pictureOf } from '@gremium/server';
import sharp from 'sharp';
import { Chance } from './random';

const COUNT = 24;
const GROUNDS = ['#dfe6e2', '#e8e0d4', '#d9e0ea', '#eadfe0', '#e4e6d3'];
const SKINS = ['#f3d7c0', '#e6bd99', '#c98f63', '#9a6442', '#6f4530'];
const HAIRS = ['#2d2622', '#5a4030', '#8a5a2b', '#c7a15a', '#b7b2aa', '#7a2f1d'];
const CLOTHES = ['#27455f', '#5d3b52', '#3f5f4a', '#7a5230', '#4a4f58'];

// Hair as it lies on a head of radius 70 around 160, 140: short, long, a bun, none.
const hairOf = (style: number, colour: string): string => {
  if (style === 3) return '';
  const cap = `<path d="M88 140 a72 76 0 0 1 144 0 q-20 -38 -72 -38 t-72 38z" fill="${colour}"/>`;
  if (style === 1)
    return `<path d="M84 140 a76 80 0 0 1 152 0 v96 h-34 v-80 h-84 v80 h-34z" fill="${colour}"/>${cap}`;
  if (style === 2) return `<circle cx="160" cy="62" r="26" fill="${colour}"/>${cap}`;
  return cap;
};

const drawn = (chance: Chance): string => {
  const [ground, skin, hair, clothes] = [GROUNDS, SKINS, HAIRS, CLOTHES].map((from) => chance.pick(from)) as [
    string,
    string,
    string,
    string,
  ];
  const style = chance.int(0, 3);
  const glasses = chance.is(0.25)
    ? '<g fill="none" stroke="#333" stroke-width="4"><circle cx="134" cy="146" r="18"/><circle cx="186" cy="146" r="18"/><path d="M152 146h16"/></g>'
    : '';
  const back = style === 1 ? hairOf(1, hair) : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="320">
    <rect width="320" height="320" fill="${ground}"/>${back}
    <path d="M40 330 q10 -96 120 -96 t120 96z" fill="${clothes}"/>
    <rect x="138" y="196" width="44" height="52" rx="18" fill="${skin}"/>
    <ellipse cx="160" cy="146" rx="66" ry="74" fill="${skin}"/>${style === 1 ? hairOf(0, hair) : hairOf(style, hair)}
    <circle cx="134" cy="146" r="6" fill="#222"/><circle cx="186" cy="146" r="6" fill="#222"/>${glasses}
    <path d="M138 184 q22 ${chance.int(8, 20)} 44 0" fill="none" stroke="#222" stroke-width="5" stroke-linecap="round"/>
  </svg>`;
};

/** The portraits of the demo. */
export const drawPortraits = async (): Promise<Picture[]> => {
  const chance = new Chance(1711);
  const portraits: Picture[] = [];
  for (let i = 0; i < COUNT; i++) {
    const bytes = await sharp(Buffer.from(drawn(chance)))
      .jpeg({ quality: 84 })
      .toBuffer();
    portraits.push(pictureOf(bytes));
  }
  return portraits;
};
