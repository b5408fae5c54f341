// The outline while units are moved: one is dragged, or taken up and put down from the keyboard; the slip of the change opens
// with where it goes, and nothing is written before that is completed.
import { movementOf } from '@gremium/contract';
import { Button } from 'antd';
import { useSearchParams } from 'react-router';
import { useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { useStart } from '../movements/acts';
import { useWords } from '../texts/words';
import { useDragging } from '../ui/use-dragging';
import type { UnitLine } from './structure.queries';

const en = {
  begin: 'Reorganise',
  end: 'Done',
  how: 'Drag a unit onto the one it is to stand below, or take it up and put it down. Its slip opens; nothing moves before that is completed.',
  lifted: (name: string) => `${name} is taken up: put it below another unit.`,
  take: 'take up',
  takeOf: (name: string) => `Take up ${name}`,
  put: 'put below',
  putOf: (name: string, above: string) => `put below ${above}: ${name}`,
  back: 'leave it',
};

const de: typeof en = {
  begin: 'Umorganisieren',
  end: 'Fertig',
  how: 'Ziehen Sie eine Einheit auf die, unter der sie stehen soll, oder nehmen Sie sie auf und legen sie ab. Ihr Vorgang öffnet sich; vor dessen Abschluss wandert nichts.',
  lifted: (name) => `${name} ist aufgenommen: Legen Sie sie unter einer anderen Einheit ab.`,
  take: 'aufnehmen',
  takeOf: (name) => `${name} aufnehmen`,
  put: 'darunter ablegen',
  putOf: (name, above) => `darunter ablegen, unter ${above}: ${name}`,
  back: 'so lassen',
};

/** What the table of the outline needs while units are moved. */
export type Reorganising = ReturnType<typeof useReorganising>;

/** Whether units are being moved, the one that is taken up, and what stands at each line for it. */
export const useReorganising = (lines: readonly UnitLine[]) => {
  const words = useWords({ en, de });
  const may = useMay();
  const start = useStart();
  const set = useSetParams();
  const [params] = useSearchParams();
  const mayMove = may.do(movementOf('change_unit').right);
  const isOn = mayMove && params.has('reorganise');
  const byId = new Map(lines.map((line) => [line.id, line]));
  // below itself it cannot stand, and below the one above it it would not move
  const mayTake = (moved: UnitLine, above: UnitLine): boolean => {
    if (above.id === moved.parentId) return false;
    for (let at: UnitLine | undefined = above; at; at = byId.get(at.parentId ?? 0))
      if (at.id === moved.id) return false;
    return true;
  };
  const dragging = useDragging<UnitLine>({
    mayTake,
    onDrop: ({ id, name }, above) =>
      start('change_unit', { kind: 'unit', id, name }, { unitId: id, parentId: above.id }),
  });
  const { lifted: up } = dragging;
  return {
    button: mayMove && (
      <Button
        className="reorganise"
        aria-pressed={isOn}
        onClick={() => {
          dragging.end();
          set({ reorganise: isOn ? null : '1' });
        }}
      >
        {isOn ? words.end : words.begin}
      </Button>
    ),
    line: isOn && (
      <p className="reorganising" role="status">
        {up ? words.lifted(up.name) : words.how}
        {up && (
          <>
            {' '}
            <button type="button" className="textact" onClick={dragging.end}>
              {words.back}
            </button>
          </>
        )}
      </p>
    ),
    classOf: ({ id }: UnitLine): string =>
      isOn ? (id === up?.id ? 'lifted' : id === dragging.over ? 'droppable' : '') : '',
    handlers: (line: UnitLine) => (isOn ? dragging.handlers(line, line.parentId !== null) : {}),
    acts: (line: UnitLine) => {
      if (!isOn) return null;
      if (!up)
        return line.parentId === null ? null : (
          <button
            type="button"
            className="textact"
            aria-label={words.takeOf(line.name)}
            onClick={() => dragging.lift(line)}
          >
            {words.take}
          </button>
        );
      return mayTake(up, line) ? (
        <button
          type="button"
          className="textact"
          aria-label={words.putOf(up.name, line.name)}
          onClick={() => dragging.drop(line)}
        >
          {words.put}
        </button>
      ) : null;
    },
  };
};
