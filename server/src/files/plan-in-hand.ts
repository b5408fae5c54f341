// The plan of the check that a worker made last. It depends on the rows, the register, the day and the rights alone: where none of
// these is another, it is what is to be written, and need not be made again.
import type { Day, Viewer } from '@gremium/contract';
import type { Decision } from '../time/act';
import type { PlannedImport } from './plan-import';

/** What a plan was made of: an import and its revision, the number of the last entry, the day, whose rights. */
export type Ground = { id: number; revision: number; last: number; today: Day; viewer: Viewer };

// A large one is some hundred megabytes, so it is not kept for those who think it over for long.
const KEPT_FOR = 15 * 60_000;

export class PlanInHand {
  private kept: { ground: string; plan: Decision<PlannedImport> } | undefined;
  private letting: NodeJS.Timeout | undefined;

  keep(ground: Ground, plan: Decision<PlannedImport>): void {
    this.letGo();
    this.kept = { ground: JSON.stringify(ground), plan };
    this.letting = setTimeout(() => this.letGo(), KEPT_FOR).unref();
  }

  /** Takes the plan away if it was made of just this. */
  take(ground: Ground): Decision<PlannedImport> | undefined {
    const plan = this.kept?.ground === JSON.stringify(ground) ? this.kept.plan : undefined;
    this.letGo();
    return plan;
  }

  letGo(): void {
    clearTimeout(this.letting);
    this.kept = undefined;
  }
}
