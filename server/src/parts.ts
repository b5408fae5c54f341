// Where what the server needs beside its code lies. Built, all of it is one folder, server/dist; from source it lies where it is
// written, and what runs in a thread or process of its own is loaded by a file of plain JavaScript first (.mjs).

/** A file of the folder of the project, by its path from there; the same from source and built. */
export const inProject = (file: string): URL => new URL(`../../${file}`, import.meta.url);

/** The file that a thread or process of its own is started with: `part` is its path from server/src, without ending. */
export const partFile = (part: string): URL => {
  const isSource = import.meta.url.endsWith('.ts');
  return new URL(isSource ? `./${part}.mjs` : `./${part.split('/').at(-1) ?? ''}.js`, import.meta.url);
};
