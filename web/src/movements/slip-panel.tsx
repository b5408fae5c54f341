import { movementEndpoints, movementOf } from '@gremium/contract';
import type { KeptMovement } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { call } from '../api';
import { useSetParams } from '../frame/lens';
import { UndoSlip } from '../time/undo-slip';
import { type LocalMovement, keptMovements } from './kept-movements';
import { MovementSlip } from './movement-slip';
import type { SlipDeclaration } from './slip-declared';
import { SlipResult } from './slip-result';
import { useSlipOf } from './slips';
import { useSlip } from './use-slip';
import { useKept } from '../time/kept';

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
  const found = useKept(keptMovements, slipKey);
  // once it is recorded it is no longer being prepared, but the result still stands here
  const [last, setLast] = useState(found);
  if (found && found !== last) setLast(found);
  const movement = found ?? last;
  if (found === undefined) return <p className="waiting">{t('waiting')}</p>;
  return movement ? <DeclaredSlip movement={movement} /> : <RecordedSlip slipKey={slipKey} />;
};

const DeclaredSlip = ({ movement }: { movement: LocalMovement }) => {
  const { t } = useTranslation();
  const declared = useSlipOf(movement.kind);
  return declared ? <MovementSlip {...{ movement, declared }} /> : <p className="waiting">{t('waiting')}</p>;
};

/** A slip that was recorded earlier, or elsewhere: what it came to; or that there is none. */
const RecordedSlip = ({ slipKey }: { slipKey: string }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const kept = useQuery({
    queryKey: ['movement', slipKey],
    queryFn: () => call(movementEndpoints.movement, { params: { key: slipKey } }),
    retry: false,
  });
  const declared = useSlipOf(kept.data?.kind ?? 'hire');
  if (kept.isPending || !declared) return <p className="waiting">{t('waiting')}</p>;
  if (kept.data?.result) return <Recorded movement={kept.data} declared={declared} />;
  return (
    <div className="slipbody">
      <p>{t('slip.gone')}</p>
      <Button onClick={() => set({ slip: null })}>{t('slip.close')}</Button>
    </div>
  );
};

const Recorded = ({ movement, declared }: { movement: KeptMovement; declared: SlipDeclaration }) => {
  const { t } = useTranslation();
  const { context, words } = useSlip(movement, declared);
  if (!context || !movement.result) return <p className="waiting">{t('waiting')}</p>;
  return (
    <SlipResult
      moved={movement.result}
      title={declared.title(context)}
      day={String(movement.input[movementOf(movement.kind).day.field] ?? '')}
      words={words}
      showing={context.showing}
      hasBefore={declared.hasBefore === true}
      returns={declared.returns === true}
      undoneBy={movement.undoneBy}
    />
  );
};
