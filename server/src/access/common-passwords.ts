// Passwords that whoever guesses tries first.
import common from '@zxcvbn-ts/language-common';

const { passwords } = common.dictionary as { passwords: string[] };
const known = new Set(passwords);
// by how often they are met
const commonest = new Set(passwords.slice(0, 1000));

// "passwordpassword" and "abcabcabcabc": what is repeated in it, else nothing.
const repeated = (text: string): string | null => /^(.+?)\1+$/.exec(text)?.[1] ?? null;

/**
 * Whether a password is guessed soon: one letter or a short row repeated, blanks alone, on the list of passwords often met,
 * or one of the thousand commonest repeated or with digits and signs around it.
 */
export const isCommon = (password: string): boolean => {
  const plain = password.toLowerCase().replace(/\s+/g, '');
  const part = repeated(plain);
  const bare = plain.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
  return (
    plain === '' ||
    known.has(plain) ||
    (part !== null && (part.length <= 3 || commonest.has(part))) ||
    commonest.has(bare) ||
    (bare === '' && commonest.has(plain.slice(0, 6)))
  );
};
