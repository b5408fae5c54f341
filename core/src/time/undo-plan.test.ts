import { describe, expect, test } from '@jest/globals';
import type { Row, SectionName } from '@gremium/contract';
import { movementKinds, presetNames } from '@gremium/contract';
import { type World, randomHistory } from '../../../demo/random-history';
import { laws } from '../laws';
import { hire } from '../movements/hire';
import { transfer } from '../movements/transfer';
import { addDays, day } from './calendar';
import { isError } from './problem';
import { type Register, RowRegister } from './register';
import { isEqual } from './timeline';
import { planFromHistory, putBack, undoneEntries } from './undo-plan';

const contents = (register: Register): Map<number, string> =>
  new Map(
    presetNames.flatMap((section) =>
      [...register.all(section)].map((row: Row): [number, string] => {
        const { lineage, thing, from, until, values } = row;
        return [lineage, JSON.stringify({ section, thing, from, until, values })];
      }),
    ),
  );

// The register as if only the entries in force had ever been: everything undone, and all undoing, left out.
const replay = ({ history }: World): Register => {
  const past = history.past();
  const undone = undoneEntries(past);
  const register = new RowRegister();
  const live = new Map<number, Row>();
  for (const entry of past) {
    if (undone.has(entry.id) || entry.undoes.length > 0) continue;
    for (const row of entry.superseded) {
      if (!live.delete(row.lineage)) throw new Error(`entry ${entry.number} supersedes what is not there`);
    }
    for (const row of entry.recorded) live.set(row.lineage, row);
  }
  register.apply({ recorded: [...live.values()], superseded: [] });
  return register;
};

const everything = (register: Register) => {
  const recorded = presetNames.flatMap((section) => [...register.all(section as SectionName)] as Row[]);
  return { recorded, superseded: [] };
};

describe('undo, over generated histories', () => {
  test.each(Array.from({ length: 150 }, (_, i) => i + 1))(
    'history %i: any undo leaves the register as if its plan had never been, and all laws kept',
    (seed) => {
      const world = randomHistory(seed, 120);
      const { history, chance } = world;
      expect(history.entries.length).toBeGreaterThan(30);
      for (let i = 0; i < 12; i++) {
        history.undo(chance.pick(history.entries.slice(1)).id);
        expect(contents(history.register)).toEqual(contents(replay(world)));
      }
      const broken = laws(history.register, everything(history.register)).map(({ problem }) => problem);
      expect(broken.filter(isError)).toEqual([]);
    },
  );

  test('the histories hold movements of every kind, and undoing one of each kind holds too', () => {
    const done = new Map<string, number>();
    for (let seed = 1; seed <= 60; seed++) {
      const world = randomHistory(seed, 120);
      const { history } = world;
      for (const { id, kind } of [...history.entries])
        if ((movementKinds as readonly string[]).includes(kind) && (done.get(kind) ?? 0) < 4) {
          done.set(kind, (done.get(kind) ?? 0) + (history.undo(id) ? 1 : 0));
          expect(contents(history.register)).toEqual(contents(replay(world)));
        }
    }
    for (const kind of movementKinds) expect([kind, (done.get(kind) ?? 0) > 1]).toEqual([kind, true]);
  });

  test('undoing an undo brings everything back', () => {
    const { history } = randomHistory(77, 60);
    const before = contents(history.register);
    const target = history.entries.at(-1)?.id as number;
    expect(history.undo(target)).not.toBeNull();
    expect(isEqual([...contents(history.register)], [...before])).toBe(false);
    history.undo(history.entries.at(-1)?.id as number);
    expect(new Map([...contents(history.register)].sort())).toEqual(new Map([...before].sort()));
  });
});

const place = { contacts: [{ kind: 'phone' as const, value: '+000 12345' }] };
const newcomer = (family: string) => ({ ...place, number: family, name: { family } });

describe('an undo plan', () => {
  test('transfer A away, hire B into the freed place, undo the transfer: the plan lists the hire of B first', () => {
    const { history, positions } = randomHistory(1, 0);
    const [here, there] = positions as [number, number];
    const base = { pay: [], reasonId: null };
    const from = day('2021-01-01');
    let personId = 0;
    history.attempt('hire', (draft) => {
      personId =
        hire(draft, { ...base, person: newcomer('A'), positionId: here, firstDay: from })?.personId ?? 0;
    });
    history.attempt('transfer', (draft) => {
      transfer(draft, { personId, positionId: there, firstDay: day('2021-06-01'), reasonId: null });
    });
    const moved = history.entries.at(-1)?.id as number;
    history.attempt('hire', (draft) => {
      hire(draft, { ...base, person: newcomer('B'), positionId: here, firstDay: day('2021-07-01') });
    });
    const hired = history.entries.at(-1)?.id as number;
    const plan = planFromHistory(moved, history.past(), history.register, history.newId);
    expect(plan.problems).toEqual([]);
    expect(plan.entries.map(({ id }) => id)).toEqual([hired, moved]);
  });

  test('is refused where an entry of before would be at fault', () => {
    const { history, positions } = randomHistory(1, 0);
    const [here] = positions as [number];
    history.attempt('edit', (draft) =>
      draft.set('position', here, { from: day('2021-01-01'), values: { standing: 'on_hold' } }),
    );
    history.attempt('edit', (draft) =>
      draft.set('position', here, { from: day('2021-02-01'), values: { standing: 'in_force' } }),
    );
    const back = history.entries.at(-1)?.id as number;
    history.attempt('hire', (draft) => {
      hire(draft, {
        person: newcomer('A'),
        positionId: here,
        firstDay: day('2021-03-01'),
        pay: [],
        reasonId: null,
      });
    });
    const plan = planFromHistory(back, history.past(), history.register, history.newId);
    expect(plan.entries.map(({ number }) => number)).toEqual([4, 3]);
    const gone = planFromHistory(999_999, history.past(), history.register, history.newId);
    expect(gone.problems.map(({ code }) => code)).toEqual(['entry_unknown']);
  });

  test('puts back one thing only, and refuses where something was built on it', () => {
    const { history, positions } = randomHistory(1, 0);
    const [one, two] = positions as [number, number];
    const from = day('2021-01-01');
    history.attempt('edit', (draft) => {
      for (const id of [one, two]) draft.set('position', id, { from, values: { title: 'Both' } });
    });
    const past = history.past().at(-1)!;
    const ids = { newId: history.newId, entry: history.newId() };
    const { change, problems } = putBack(past, one, history.register, ids);
    expect(problems).toEqual([]);
    history.register.apply(change);
    expect(history.register.at('position', one, addDays(from, 1))?.title).toBe('Position 0');
    expect(history.register.at('position', two, addDays(from, 1))?.title).toBe('Both');
    expect(putBack(past, one, history.register, ids).problems.map(({ code }) => code)).toEqual([
      'put_back_superseded',
    ]);
  });
});
