type Head = { label: string; isNumber?: boolean; /** It stays in one line. */ isShort?: boolean };
type Line = { key: string | number; cells: readonly React.ReactNode[] };

/** A ruled table: heads, and lines of cells in their order; numbers stand at the right. */
export const PlainTable = ({ heads, rows }: { heads: readonly Head[]; rows: readonly Line[] }) => (
  <table className="register">
    <thead>
      <tr>
        {heads.map(({ label, isNumber }) => (
          <th key={label} scope="col" className={isNumber ? 'r' : undefined}>
            {label}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {rows.map(({ key, cells }) => (
        <tr key={key}>
          {cells.map((cell, i) => (
            <td
              key={heads[i]?.label}
              className={heads[i]?.isNumber ? 'r' : heads[i]?.isShort ? 'day' : undefined}
            >
              {cell}
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  </table>
);
