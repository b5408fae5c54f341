/** A line of a form: label above input. */
export const EntryField = ({
  label,
  id,
  children,
}: {
  label: string;
  id?: string;
  children: React.ReactNode;
}) => (
  <label className="slipfield" htmlFor={id}>
    <span className="soft">{label}</span>
    {children}
  </label>
);
