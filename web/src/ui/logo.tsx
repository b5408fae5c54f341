/** The logo as it is shown beside the name, which says the same: it is read out once. */
export const Logo = ({ of, height }: { of: string; height: number }) => (
  <img className="logo" src={`/api/logo?of=${of.slice(0, 16)}`} alt="" height={height} />
);
