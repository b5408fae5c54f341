import { Dropdown } from 'antd';
import { useTranslation } from 'react-i18next';

/** Offers what is shown as a file of either kind. */
export const TakeOut = ({ address, of }: { address: (format: 'csv' | 'xlsx') => string; of?: string }) => {
  const { t } = useTranslation('reports');
  const items = (['csv', 'xlsx'] as const).map((format) => ({
    key: format,
    label: (
      <a href={address(format)} download>
        {t(format === 'csv' ? 'asCsv' : 'asXlsx')}
      </a>
    ),
  }));
  return (
    <Dropdown menu={{ items }} trigger={['click']}>
      <button type="button" className="textact" aria-label={of && `${t('takeOut')}: ${of}`}>
        {t('takeOut')}
      </button>
    </Dropdown>
  );
};
