import type { ImportOut } from '@gremium/contract';
import type { useImportActs } from './files.queries';

export type Acts = ReturnType<typeof useImportActs>;
export type StepProps = { of: ImportOut; acts: Acts };

/** A step of the page: its number, its name, and what it says. */
export const Step = ({
  number,
  name,
  look,
  act,
  children,
}: {
  number: number;
  name: string;
  look: 'done' | 'now' | 'next';
  act?: React.ReactNode;
  children: React.ReactNode;
}) => (
  <section className={`importstep ${look}`} aria-label={name}>
    <div className="no" aria-hidden>
      {number}
    </div>
    <div className="stepbody">
      <h2>{name}</h2>
      <div className="said">{children}</div>
      {act && <div className="stepact">{act}</div>}
    </div>
  </section>
);
