import { useTranslation } from 'react-i18next';

export type MarkName = 'filled' | 'part_filled' | 'vacant' | 'over_held' | 'planned' | 'on_hold' | 'closed';

const shapes: Record<MarkName, React.ReactNode> = {
  filled: <path d="M1 1h10v10H1z" fill="currentColor" />,
  part_filled: (
    <>
      <path d="M1.6 1.6h8.8v8.8H1.6z" fill="none" stroke="currentColor" strokeWidth="1.4" />
      <path d="M1 1h5v10H1z" fill="currentColor" />
    </>
  ),
  vacant: <path d="M1.6 1.6h8.8v8.8H1.6z" fill="none" stroke="currentColor" strokeWidth="1.4" />,
  over_held: (
    <>
      <path d="M1 1h10v10H1z" fill="currentColor" />
      <path d="M3.6 -2.8h4.8v2.6H3.6z" fill="currentColor" />
    </>
  ),
  planned: (
    <path
      d="M1.6 1.6h8.8v8.8H1.6z"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.4"
      strokeDasharray="2.2 2.2"
      strokeDashoffset="1.1"
    />
  ),
  on_hold: (
    <>
      <path d="M1.5 1.5h9v9h-9z" fill="none" stroke="currentColor" strokeWidth="1.2" />
      <path d="M1.5 6 6 1.5M1.5 10.5l9-9M6 10.5 10.5 6" stroke="currentColor" strokeWidth="1.4" />
    </>
  ),
  closed: <path d="M2 11 10 1" stroke="currentColor" strokeWidth="1.6" />,
};

/** The one drawing of occupancy: readable without colour, named for those who do not see it. */
export const OccupancyMark = ({ mark, size = 12 }: { mark: MarkName; size?: number }) => {
  const { t } = useTranslation();
  return (
    <svg
      className={`mark mark-${mark}`}
      viewBox="0 0 12 12"
      width={size}
      height={size}
      overflow="visible"
      role="img"
      aria-label={t(`mark.${mark}`)}
    >
      <title>{t(`mark.${mark}`)}</title>
      {shapes[mark]}
    </svg>
  );
};
