export const startThrowAway: () => Promise<{ url: string; remove: () => void }>;
