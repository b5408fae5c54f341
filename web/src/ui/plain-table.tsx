import { Fragment } from 'react';

type Head = { label: string; isNumber?: boolean; /** It stays in one line. */ isShort?: boolean };
type Line = {
  key: string | number;
  cells: readonly React.ReactNode[];
  /** What else there is to say, under the cells. */
  under?: React.ReactNode;
};

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
      {rows.map(({ key, cells, under }) => (
        <Fragment key={key}>
          <tr className={under ? 'overmore' : undefined}>
            {cells.map((cell, i) => (
              <td
                key={heads[i]?.label}
                className={heads[i]?.isNumber ? 'r' : heads[i]?.isShort ? 'day' : undefined}
              >
                {cell}
              </td>
            ))}
          </tr>
          {under && (
            <tr className="more">
              <td colSpan={heads.length}>{under}</td>
            </tr>
          )}
        </Fragment>
      ))}
    </tbody>
  </table>
);
