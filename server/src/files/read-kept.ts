// What a file is by what is in it: its name says nothing, and pages, scripts and programs are none of the kinds that are kept.
import { FileType } from '@gremium/contract';
import { fileTypeFromBuffer } from 'file-type';

// Tabs, ends of lines and of pages are part of text; other control characters are not.
const isControl = (code: number): boolean => code < 32 && ![9, 10, 12, 13, 27].includes(code);
const hasControls = (text: string): boolean => {
  for (let i = 0; i < text.length; i++) if (isControl(text.charCodeAt(i))) return true;
  return false;
};
// What a browser could take for a page, whatever it is called.
const MARKUP = /^\s*(<!doctype|<\?xml|<html|<head|<body|<script|<svg|<!--|<[a-z]+[\s>])/i;

const isPlainText = (content: Buffer): boolean => {
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(content);
    return !hasControls(text) && !MARKUP.test(text.slice(0, 1000));
  } catch {
    return false;
  }
};

/** The kind of a content; null where it is none that is kept. */
export const typeOf = async (content: Buffer): Promise<FileType | null> => {
  const found = await fileTypeFromBuffer(content).catch(() => undefined);
  if (found) return FileType.safeParse(found.ext).data ?? null;
  return isPlainText(content) ? 'txt' : null;
};

/** A name with the ending that its content has: "scan.png" that is a PDF becomes "scan.pdf". */
export const nameAs = (name: string, type: FileType): string => {
  const clean = [...name.replace(/[\\/:*?"<>|]+/g, '_')]
    .filter((sign) => !isControl(sign.charCodeAt(0)))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
  const ending = /\.([a-z0-9]{1,5})$/i.exec(clean)?.[1]?.toLowerCase();
  const alike =
    ending === type || (type === 'jpg' && ending === 'jpeg') || (type === 'txt' && ending === 'csv');
  if (alike) return clean.slice(-200);
  const stem = ending && FileType.safeParse(ending).success ? clean.slice(0, -ending.length - 1) : clean;
  return `${(stem || 'file').slice(0, 190)}.${type}`;
};
