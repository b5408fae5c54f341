export const databaseUrl: () => Promise<{ url: string; bin: string; release: () => void }>;
