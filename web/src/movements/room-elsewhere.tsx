import { type Problem, structureEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { readsOf } from '../time/touched';
import { OccupancyMark, type MarkName } from '../ui/occupancy-mark';
import type { Slip } from './use-slip';

const en = {
  room: 'There is room in',
  none: 'No other position of this job has room on that day.',
  free: (fte: string) => `${fte} FTE free`,
  unlimited: 'without a limit',
};
const de: typeof en = {
  room: 'Platz ist in',
  none: 'Keine andere Planstelle dieser Tätigkeit hat an diesem Tag Platz.',
  free: (fte) => `${fte} VZÄ frei`,
  unlimited: 'ohne Grenze',
};

const MOST = 5;

/** Whether a problem says that a position is full. */
export const isFull = ({ code }: Problem): boolean => code === 'place_taken' || code === 'fte_taken';

/** Where a position is full: others of its job that have room for as much, each chosen with one press. */
export const RoomElsewhere = ({ slip, problem }: { slip: Slip; problem: Problem }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const { query } = useLens();
  const { context } = slip;
  const id = Number(slip.movement.input['positionId'] ?? 0);
  const on = context?.day ?? query.on;
  const job = on ? context?.showing.register.at('position', id, on)?.jobId : undefined;
  const least = Number(problem.params['share'] ?? 0);
  const { data } = useQuery({
    queryKey: ['positions', 'room', job, least, on],
    queryFn: () =>
      call(structureEndpoints.positions, {
        query: { ...query, on, job: job as number, least, free: 'yes' as const },
      }),
    enabled: typeof job === 'number',
    meta: readsOf('position', 'position_limits', 'placement'),
  });
  const others = (data?.positions ?? []).filter((line) => line.id !== id && line.freePlaces !== 0);
  if (!data) return null;
  return (
    <div className="room" role="note">
      {others.length === 0 ? (
        <span className="soft">{words.none}</span>
      ) : (
        <>
          {words.room}
          <ul>
            {others.slice(0, MOST).map((line) => (
              <li key={line.id}>
                <OccupancyMark mark={line.mark as MarkName} />{' '}
                <button
                  type="button"
                  className="textact"
                  onClick={() => slip.choose('positionId', 'position', { id: line.id, name: line.title })}
                >
                  {line.title} {line.code}
                </button>{' '}
                <span className="soft">
                  {line.hireFte === null ? words.unlimited : words.free(format.hundredths(line.hireFte))}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
};
