/** A field of a slip: label, input, and where its value came from. */
export const SlipField = ({
  id,
  label,
  source,
  children,
}: {
  id: string;
  label: string;
  source?: string | null | undefined;
  children: React.ReactNode;
}) => (
  <div className="slipfield">
    <label htmlFor={id}>{label}</label>
    {children}
    {source && <div className="source">{source}</div>}
  </div>
);
