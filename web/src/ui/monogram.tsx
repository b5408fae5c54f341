import { useMode } from '../frame/session';
import { colours } from '../tokens';

const initials = (name: string): string => {
  const words = name.split(' ').filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : ''].map((word) => [...(word ?? '')][0] ?? '').join('');
};

/** A person without a photo: initials on a tint that follows from the name. Size is the edge in pixels. */
export const Monogram = ({ name, size = 32 }: { name: string; size?: number }) => {
  const { monograms, monogramInk } = colours[useMode()];
  const sum = [...name].reduce((n, letter) => n + (letter.codePointAt(0) ?? 0), 0);
  return (
    <span
      aria-hidden
      className="monogram"
      data-initials={initials(name)}
      style={{
        width: size,
        height: size,
        fontSize: Math.round(size * 0.4),
        background: monograms[sum % monograms.length],
        color: monogramInk,
      }}
    />
  );
};
