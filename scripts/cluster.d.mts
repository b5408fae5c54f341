type Cluster = { url: string; port: number; dir: string; bin: string; wasRunning: boolean; stop: () => void };
export const startCluster: (dir: string, options?: { fast?: boolean; port?: number }) => Promise<Cluster>;
export const startThrowAway: (options?: {
  fast?: boolean;
}) => Promise<Cluster & { remove: () => void; restart: () => Promise<Cluster> }>;
