import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

// argon2id (the library's default) with OWASP's second recommended parameters: 19 MiB, 2 passes, 1 lane.
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

let nobody: Promise<string> | undefined;

/** Takes the same time whether there is such an account or not. */
export const isPassword = async (stored: string | null | undefined, password: string): Promise<boolean> => {
  nobody ??= hashPassword(randomBytes(18).toString('hex'));
  return (await verify(stored ?? (await nobody), password)) && typeof stored === 'string';
};

/** A token for a cookie or link, and the hash under which it is kept. */
export const newToken = (): { token: string; tokenHash: string } => {
  const token = randomBytes(32).toString('base64url');
  return { token, tokenHash: hashToken(token) };
};

export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
