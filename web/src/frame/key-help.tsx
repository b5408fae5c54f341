import { Modal, Switch } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { active, keysAreOn, switchKeys } from './keys';

/** The keys that act on this page, and the switch for the single ones. */
export const KeyHelp = ({ onClose }: { onClose: () => void }) => {
  const { t } = useTranslation();
  const [isOn, setOn] = useState(keysAreOn);
  const rows = [
    { key: t('find.key'), what: t('find.open') },
    ...[...active].map(([key, what]) => ({ key, what })),
  ];
  return (
    <Modal open onCancel={onClose} footer={null} title={t('keys.title')} width={420}>
      <table className="keys">
        <tbody>
          {rows.map(({ key, what }) => (
            <tr key={what}>
              <th scope="row">
                <kbd>{key}</kbd>
              </th>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p>
        <Switch
          size="small"
          checked={isOn}
          aria-label={t('keys.single')}
          onChange={(on) => {
            switchKeys(on);
            setOn(on);
          }}
        />{' '}
        {t('keys.single')}
      </p>
    </Modal>
  );
};
