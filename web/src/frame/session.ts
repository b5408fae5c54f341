import { createContext, useContext } from 'react';
import type { Act, Right, SectionName, Session } from '@gremium/contract';
import { may as mayOf, movementKinds, movementOf } from '@gremium/contract';
import { useSearchParams } from 'react-router';
import type { Mode } from '../tokens';

type Inside = { session: Session; mode: Mode };

/** Who is signed in and which theme is on; there is one inside the frame. */
export const SessionContext = createContext<Inside | null>(null);

export const useSession = (): Session => useInside().session;
export const useMode = (): Mode => useInside().mode;

const useInside = (): Inside => {
  const inside = useContext(SessionContext);
  if (!inside) throw new Error('nobody is signed in here');
  return inside;
};

/** Acts that write what is looked at. */
const WRITING: Act[] = ['hire', 'transfer', 'leave', 'create', 'undo', 'mend'];

/** What the user may do; acts and sections that they may not are not offered. */
export const useMay = () => {
  const { viewer } = useSession();
  const given = mayOf(viewer);
  const [params] = useSearchParams();
  // what was known at an earlier moment is for reading: whoever changed it would overwrite what they do not see
  const isPast = params.has('known');
  const mayAct = (act: Act) => (!isPast || !WRITING.includes(act)) && given.do(act);
  const mayEdit = (section: SectionName) => !isPast && given.edit(section);
  return {
    act: mayAct,
    /** What a movement needs. */
    do: (right: Right) =>
      typeof right !== 'string' &&
      ('section' in right
        ? mayEdit(right.section)
        : given.allows(right) && !('act' in right && !mayAct(right.act))),
    view: (section: SectionName) => given.view(section),
    /** Counts over people need more than one's own record. */
    count: given
      .coverings(['placement', 'employment', 'person_name'])
      .some(({ conditions }) => !conditions.some(({ type }) => type === 'oneself')),
    /** Whether there is any movement that is theirs to begin or to say something of. */
    movements: movementKinds.some((kind) => given.allows(movementOf(kind).right)),
    edit: mayEdit,
    /** Whether a section is theirs to keep, whatever moment is looked at. */
    keep: (section: SectionName) => given.edit(section),
  };
};

export type May = ReturnType<typeof useMay>;
