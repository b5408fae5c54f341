import { type Mode, colours } from '../tokens';

const initials = (name: string): string => {
  const words = name.split(' ').filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : ''].map((word) => [...(word ?? '')][0] ?? '').join('');
};

/** A person without a photo: initials on a tint that follows from the name. */
export const Monogram = ({ name, mode }: { name: string; mode: Mode }) => {
  const { monograms, monogramInk } = colours[mode];
  const sum = [...name].reduce((n, letter) => n + (letter.codePointAt(0) ?? 0), 0);
  return (
    <span
      aria-hidden
      className="monogram"
      style={{ background: monograms[sum % monograms.length], color: monogramInk }}
    >
      {initials(name)}
    </span>
  );
};
