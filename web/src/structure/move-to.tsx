// Where something is moved to, by choosing: before another one, to the end, into another section.
import { Select } from 'antd';
import { useWords } from '../texts/words';
import { ownWords } from './own-words';

/** A place to move to: before one of the others (null: last), or into a section. */
export type Target = { before: string | null } | { section: string };
type Option = { value: string; label: string; target: Target };

/** What is chosen from: the others it may stand before, and sections it may be shown in. */
export const MoveTo = ({
  name,
  others,
  sections = [],
  onMove,
}: {
  name: string;
  others: readonly { id: string; name: string }[];
  sections?: readonly { section: string; label: string }[];
  onMove: (target: Target) => void;
}) => {
  const words = useWords(ownWords);
  const options: Option[] = [
    ...others.map(({ id, name: other }) => ({
      value: `before ${id}`,
      label: words.before(other),
      target: { before: id },
    })),
    ...(others.length > 0 ? [{ value: 'last', label: words.last, target: { before: null } }] : []),
    ...sections.map(({ section, label }) => ({ value: `into ${section}`, label, target: { section } })),
  ];
  if (options.length === 0) return null;
  return (
    <Select
      size="small"
      variant="borderless"
      className="moveto"
      aria-label={`${words.move} ${name}`}
      placeholder={words.move}
      value={null}
      popupMatchSelectWidth={false}
      options={options}
      onChange={(chosen: string | null) => {
        const found = options.find(({ value }) => value === chosen);
        if (found) onMove(found.target);
      }}
    />
  );
};
