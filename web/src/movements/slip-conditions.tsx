// A movement that is recorded only once conditions are met: the lines on its slip, and what is said once it waits.
import { movementOf } from '@gremium/contract';
import { Button, Input } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useWords } from '../texts/words';
import { SlipField } from './slip-field';
import type { Slip } from './use-slip';

const en = {
  once: 'Once conditions are met',
  lines: 'Conditions, one a line',
  example: 'Work permit has come',
  note: 'It is recorded with the last tick, under Movements. Until then it changes nothing.',
  waits: 'Handed in',
  waitsFor: 'It waits for its conditions and has changed nothing yet:',
  open: 'Open Movements',
  close: 'Close the slip',
};
const de: typeof en = {
  once: 'Sobald Bedingungen erfüllt sind',
  lines: 'Bedingungen, je Zeile eine',
  example: 'Arbeitserlaubnis liegt vor',
  note: 'Erfasst wird es mit dem letzten Haken, unter Maßnahmen. Bis dahin ändert es nichts.',
  waits: 'Eingereicht',
  waitsFor: 'Sie wartet auf ihre Bedingungen und hat noch nichts geändert:',
  open: 'Maßnahmen öffnen',
  close: 'Zettel schließen',
};

/** The lines, folded away until somebody wants them; offered where something is to be said of it later. */
export const SlipConditions = ({ slip }: { slip: Slip }) => {
  const words = useWords({ en, de });
  const { kind, key } = slip.movement;
  if (!movementOf(kind).says) return null;
  const id = `${key}-conditions`;
  return (
    <details open={slip.conditions.length > 0 || undefined}>
      <summary>{words.once}</summary>
      <SlipField id={id} label={words.lines} source={words.note}>
        <Input.TextArea
          id={id}
          autoSize={{ minRows: 2, maxRows: 6 }}
          maxLength={2000}
          placeholder={words.example}
          value={slip.movement.typed['conditions'] ?? ''}
          onChange={(event) => slip.note('conditions', event.target.value)}
        />
      </SlipField>
    </details>
  );
};

/** It was handed in, and waits. */
export const SlipWaits = ({ title, conditions }: { title: string; conditions: readonly string[] }) => {
  const words = useWords({ en, de });
  const { t } = useTranslation();
  const to = useTo();
  const set = useSetParams();
  return (
    <>
      <header className="sliphead" role="status">
        <div className="kind">
          <span className="moss">✓ {words.waits}</span>
        </div>
        <h2>{title}</h2>
      </header>
      <div className="slipbody">
        <p>{words.waitsFor}</p>
        <ul>
          {conditions.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        <p>
          <Link to={to('/movements', { slip: null })}>{words.open}</Link>
        </p>
      </div>
      <footer className="slipfoot">
        <div className="acts">
          <Button type="primary" autoFocus onClick={() => set({ slip: null })}>
            {t('slip.close', { defaultValue: words.close })}
          </Button>
        </div>
      </footer>
    </>
  );
};
