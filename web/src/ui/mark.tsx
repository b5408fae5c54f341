/** Ten seats round a table, in the colours of the theme. */
export const Mark = () => (
  <svg viewBox="0 0 32 32" width={22} height={22} aria-hidden>
    <g fill="var(--ink)">
      <path d="M7 2h5v5H7zM13.5 2h5v5h-5zM20 2h5v5h-5z" />
      <path d="M2 8.5h5v5H2zM2 15h5v5H2zM2 21.5h5v5H2z" transform="translate(0 -1.5)" />
      <path d="M7 25h5v5H7zM13.5 25h5v5h-5zM20 25h5v5h-5z" />
      <path d="M25 20h5v5h-5z" />
    </g>
    <path d="M12 13.5h18v5H12z" fill="var(--bronze)" />
  </svg>
);
