type Cluster = { url: string; port: number; dir: string; bin: string; wasRunning: boolean; stop: () => void };
export const startCluster: (dir: string, options?: { fast?: boolean }) => Promise<Cluster>;
export const startThrowAway: () => Promise<Cluster & { remove: () => void }>;
