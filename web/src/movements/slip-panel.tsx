import { Button } from 'antd';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { useSetParams } from '../frame/lens';
import { UndoSlip } from '../time/undo-slip';
import { useDraft } from './drafts';
import { HireSlip } from './hire-slip';
import { TransferSlip } from './transfer-slip';
import { useState } from 'react';

/** What is being prepared, at the right of whatever is looked at. It stands in the address. */
export const SlipPanel = () => {
  const { t } = useTranslation();
  const [params] = useSearchParams();
  const undo = params.get('undo');
  const key = params.get('slip');
  return (
    <aside className="slip" aria-label={t('slip.title')}>
      {undo ? <UndoSlip key={undo} number={Number(undo)} /> : key && <KeptSlip key={key} slipKey={key} />}
    </aside>
  );
};

const KeptSlip = ({ slipKey }: { slipKey: string }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const found = useDraft(slipKey);
  // once it is recorded its draft is gone, but the result still stands here
  const [last, setLast] = useState(found);
  if (found && found !== last) setLast(found);
  const draft = found ?? last;
  if (found === undefined) return <p className="waiting">{t('waiting')}</p>;
  if (!draft)
    return (
      <div className="slipbody">
        <p>{t('slip.gone')}</p>
        <Button onClick={() => set({ slip: null })}>{t('slip.close')}</Button>
      </div>
    );
  return draft.kind === 'hire' ? <HireSlip draft={draft} /> : <TransferSlip draft={draft} />;
};
