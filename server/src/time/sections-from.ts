import { type Catalogue, preset } from '@gremium/contract';

/** What a worker is started with: its database, and the module (by its address) of sections beside the preset ones. */
export type WorkerData = {
  url: string;
  sectionsFrom?: string | undefined;
  /** Seconds that somebody waits at most, and that a question may be worked on. */
  waits: number;
  question: number;
};

/** The sections the program knows: the preset ones, or those that a module exports as `catalogue`. */
export const sectionsIn = async (module: string | undefined): Promise<Catalogue> =>
  module === undefined ? preset : ((await import(module)) as { catalogue: Catalogue }).catalogue;
