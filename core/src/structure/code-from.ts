import { fold } from '../people/names';

/** A code made of a label: its letters and digits in plain capitals. @example codeFrom('Größe & Maß') // 'GROSSE-MASS' */
export const codeFrom = (label: string): string =>
  fold(label)
    .toUpperCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40);
