import { useTranslation } from 'react-i18next';

type Compared = { key: string; label: string; cells: readonly string[] };

/** Fields side by side as several people or times have them. */
export const ComparedTable = ({ heads, rows }: { heads: readonly string[]; rows: readonly Compared[] }) => {
  const { t } = useTranslation();
  return (
    <table className="beforeafter">
      <thead>
        <tr>
          <th scope="col">
            <span className="hidden">{t('edit.field')}</span>
          </th>
          {heads.map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, label, cells }) => (
          <tr key={key}>
            <th scope="row">{label}</th>
            {cells.map((cell, i) => (
              <td key={heads[i]}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
};
